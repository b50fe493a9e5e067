import { sveltekit } from '@sveltejs/kit/vite';
import tailwindcss from '@tailwindcss/vite';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [tailwindcss(), sveltekit()],
  // Fonts stay files: data: addresses would need a wider Content-Security-Policy.
  build: {
    assetsInlineLimit: 0,
    rolldownOptions: {
      output: {
        // What every page needs comes in a few files, not in fifty: on a phone each one costs.
        advancedChunks: {
          groups: [
            { name: 'database', test: /node_modules[\\/]dexie/, priority: 3 },
            { name: 'plot', test: /node_modules[\\/](d3-|internmap)/, priority: 3 },
            { name: 'vendor', test: /node_modules/, priority: 2 },
            { name: 'frame', test: /src[\\/]lib[\\/](ui|session|frame|api)[\\/]/, priority: 1 }
          ]
        }
      }
    }
  },
  server: { proxy: { '/api': 'http://127.0.0.1:8765' } }
});
