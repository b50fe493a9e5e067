<script lang="ts">
  import { Refusal } from '$lib/api/client';
  import { me } from '$lib/session/me.svelte';
  import Dialog from '$lib/ui/Dialog.svelte';

  let code = $state('');
  let wrong = $state('');
  let asked = $derived(me.asking);

  async function give(event: SubmitEvent) {
    event.preventDefault();
    wrong = '';
    try {
      await me.answer(code);
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      wrong = error.message;
    } finally {
      code = '';
    }
  }
</script>

<Dialog
  open={asked !== undefined}
  labelledby="code-title"
  width="narrow"
  onclose={() => me.settle(false)}
>
  <form onsubmit={give}>
    <h2 id="code-title">Sign as {me.told.person?.name ?? ''}</h2>
    <p class="quiet">{asked?.said}</p>
    <label for="code-now">Your code, or your passphrase</label>
    <!-- svelte-ignore a11y_autofocus -->
    <input
      id="code-now"
      class="input w-full"
      type="password"
      autocomplete="off"
      autofocus
      bind:value={code}
      aria-invalid={wrong !== ''}
      aria-describedby="code-wrong"
    />
    <p id="code-wrong" class="text-error font-semibold" role="alert">{wrong}</p>
    <div class="flex gap-2 mt-3">
      <button class="btn btn-primary" disabled={!code}>Sign</button>
      <button type="button" class="btn" onclick={() => me.settle(false)}>Leave it unsigned</button>
    </div>
  </form>
</Dialog>
