<script lang="ts">
  /** A passphrase and a code chosen by whoever is to use them. */
  interface Props {
    keep: (passphrase: string, code: string) => Promise<void>;
    label: string;
    wrong: string;
    ready?: boolean;
  }
  let { keep, label, wrong, ready = true }: Props = $props();
  const id = $props.id();
  let passphrase = $state('');
  let again = $state('');
  let code = $state('');
  let differ = $derived(again !== '' && passphrase !== again);

  function submit(event: SubmitEvent) {
    event.preventDefault();
    void keep(passphrase, code);
  }
</script>

<form onsubmit={submit}>
  <div>
    <label for={`${id}-p`}>Passphrase</label>
    <input
      id={`${id}-p`}
      class="input w-full"
      type="password"
      autocomplete="new-password"
      bind:value={passphrase}
      aria-describedby={`${id}-ph`}
    />
    <p id={`${id}-ph`} class="quiet">Twelve letters or more: four words in a row do well.</p>
  </div>
  <div>
    <label for={`${id}-a`}>Passphrase again</label>
    <input
      id={`${id}-a`}
      class="input w-full"
      type="password"
      autocomplete="new-password"
      bind:value={again}
      aria-invalid={differ}
    />
    {#if differ}<p class="text-error font-semibold">The two differ.</p>{/if}
  </div>
  <div>
    <label for={`${id}-c`}>Code for the bench</label>
    <input
      id={`${id}-c`}
      class="input w-full num"
      type="password"
      inputmode="numeric"
      autocomplete="off"
      bind:value={code}
      aria-describedby={`${id}-ch`}
    />
    <p id={`${id}-ch`} class="quiet">
      Six to ten digits: it signs you in on the shop's own machine and paired phones, and is asked
      for with each signature.
    </p>
  </div>
  <p class="text-error font-semibold" role="alert">{wrong}</p>
  <button class="btn btn-primary" disabled={!ready || !passphrase || passphrase !== again || !code}
    >{label}</button
  >
</form>

<style>
  form {
    display: flex;
    flex-direction: column;
    gap: 0.6rem;
    margin-top: 0.5rem;
  }
</style>
