<script lang="ts">
  import { api, ask, Refusal } from '$lib/api/client';
  import SecretField from '$lib/frame/SecretField.svelte';
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
  <form onsubmit={change} class="grid gap-3">
    <SecretField label="Passphrase now" bind:value={now} autocomplete="current-password" />
    <SecretField
      label="New passphrase"
      bind:value={passphrase}
      autocomplete="new-password"
      placeholder="as it is"
    />
    <SecretField
      label="New code"
      bind:value={code}
      autocomplete="off"
      digits
      placeholder="as it is"
    />
    <button class="btn" disabled={!now || (!passphrase && !code)}>Change them</button>
  </form>
  <p class="text-error font-semibold" role="alert">{wrong}</p>
  <p role="status">{said}</p>
</section>

<style>
  form {
    grid-template-columns: repeat(auto-fill, minmax(14rem, 1fr));
  }
  button {
    justify-self: start;
    align-self: center;
  }
</style>
