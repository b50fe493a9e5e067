<script lang="ts">
  import SecretField from './SecretField.svelte';

  /** A passphrase and a code chosen by whoever is to use them. */
  interface Props {
    keep: (passphrase: string, code: string) => Promise<void>;
    label: string;
    wrong: string;
    ready?: boolean;
  }
  let { keep, label, wrong, ready = true }: Props = $props();
  let passphrase = $state('');
  let again = $state('');
  let code = $state('');
  let differ = $derived(again !== '' && passphrase !== again ? 'The two differ.' : '');

  function submit(event: SubmitEvent) {
    event.preventDefault();
    void keep(passphrase, code);
  }
</script>

<form onsubmit={submit}>
  <SecretField
    label="Passphrase"
    bind:value={passphrase}
    autocomplete="new-password"
    hint="Twelve letters or more: four words in a row do well."
  />
  <SecretField
    label="Passphrase again"
    bind:value={again}
    autocomplete="new-password"
    wrong={differ}
  />
  <SecretField
    label="Code for the bench"
    bind:value={code}
    autocomplete="off"
    digits
    hint="Six to ten digits: it signs you in on the shop's own machine and paired phones, and is asked for with each signature."
  />
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
