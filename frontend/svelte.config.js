import adapter from '@sveltejs/adapter-static';
import { vitePreprocess } from '@sveltejs/vite-plugin-svelte';

/** @type {import('@sveltejs/kit').Config} */
export default {
  preprocess: vitePreprocess(),
  compilerOptions: {
    runes: ({ filename }) => (filename.includes('node_modules') ? undefined : true)
  },
  kit: {
    // The built page goes into the Python package, so that an installed copy needs no Node.
    adapter: adapter({
      pages: '../src/gentle_ember/web/static',
      assets: '../src/gentle_ember/web/static',
      fallback: 'index.html',
      precompress: true
    }),
    output: { bundleStrategy: 'split' },
    // Asked now and then, so that a page knows of a newer server.
    version: { pollInterval: 60_000 }
  }
};
