<script lang="ts">
  import type { Everybody } from '$lib/api/client';

  type Role = Everybody['roles'][number];
  interface Props {
    roles: Role[];
    invite: (name: string, role: Role['key']) => Promise<boolean>;
  }
  let { roles, invite }: Props = $props();
  let name = $state('');
  let role = $state<Role['key']>('technician');
  let means = $derived(roles.find((one) => one.key === role)?.means ?? '');

  async function submit(event: SubmitEvent) {
    event.preventDefault();
    if (!(await invite(name.trim(), role))) return;
    name = '';
    role = 'technician';
  }
</script>

<section class="section" aria-labelledby="invite">
  <h2 id="invite">Let somebody in</h2>
  <form onsubmit={submit} class="flex flex-wrap gap-3 items-end">
    <div>
      <label for="invite-name">Their name</label>
      <input id="invite-name" class="input" bind:value={name} maxlength="120" autocomplete="off" />
    </div>
    <div>
      <label for="invite-role">As</label>
      <select id="invite-role" class="select" bind:value={role} aria-describedby="invite-means">
        {#each roles as one (one.key)}<option value={one.key}>{one.name}</option>{/each}
      </select>
    </div>
    <button class="btn btn-primary" disabled={!name.trim()}>Make an invitation</button>
  </form>
  <p class="quiet" id="invite-means">{means}</p>
</section>
