<script lang="ts">
  import { page } from '$app/state';
</script>

<main id="sheet" tabindex="-1">
  <h1>{page.status === 404 ? 'Nothing here' : 'That did not work'}</h1>
  <p>{page.error?.message} Nothing was changed.</p>
  <p><a class="btn" href="/">To the shop board</a></p>
</main>

<style>
  main {
    max-width: 40rem;
    margin: 0 auto;
    padding: 2rem 1rem;
  }
  h1 {
    font-size: 1.4rem;
    font-weight: 700;
  }
</style>
