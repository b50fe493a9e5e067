<script lang="ts">
  import { api, ask, Refusal } from '$lib/api/client';
  import { me } from '$lib/session/me.svelte';

  let now = $state('');
  let passphrase = $state('');
  let code = $state('');
  let said = $state('');
  let wrong = $state('');

  async function change(event: SubmitEvent) {
    event.preventDefault();
    said = wrong = '';
    try {
      me.take(await ask(api.PUT('/api/me/secrets', { body: { now, passphrase, code } })));
      now = passphrase = code = '';
      said = 'Changed. You are signed out everywhere else.';
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      wrong = error.message;
    }
  }
</script>

<section class="section" aria-labelledby="secrets">
  <h2 id="secrets">My passphrase and code</h2>
  <form onsubmit={change} class="flex flex-wrap gap-3 items-end">
    <div>
      <label for="now">Passphrase now</label>
      <input
        id="now"
        class="input"
        type="password"
        autocomplete="current-password"
        bind:value={now}
      />
    </div>
    <div>
      <label for="new-p">New passphrase</label>
      <input
        id="new-p"
        class="input"
        type="password"
        autocomplete="new-password"
        placeholder="as it is"
        bind:value={passphrase}
      />
    </div>
    <div>
      <label for="new-c">New code</label>
      <input
        id="new-c"
        class="input num"
        type="password"
        inputmode="numeric"
        autocomplete="off"
        placeholder="as it is"
        bind:value={code}
      />
    </div>
    <button class="btn" disabled={!now || (!passphrase && !code)}>Change them</button>
  </form>
  <p class="text-error font-semibold" role="alert">{wrong}</p>
  <p role="status">{said}</p>
</section>
