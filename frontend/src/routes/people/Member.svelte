<script lang="ts">
  import type { Everybody } from '$lib/api/client';
  import type { components } from '$lib/api/schema';
  import Sets from './Sets.svelte';

  type One = Everybody['people'][number];
  type Body = Partial<components['schemas']['MemberIn']>;
  interface Props {
    one: One;
    roles: Everybody['roles'];
    put: (id: number, body: Body) => Promise<unknown>;
    again: () => Promise<unknown>;
  }
  let { one, roles, put, again }: Props = $props();
  let leaving = $state(false);
  let stands = $derived(
    one.invited
      ? 'invited, has not come in yet'
      : one.signs_in
        ? ''
        : "can't sign in yet: make an invitation"
  );
</script>

<li class="ruled" data-person={one.name}>
  <div class="flex flex-wrap gap-x-4 gap-y-1 items-center">
    <b class="name">{one.name}</b>
    <select
      class="select select-sm"
      aria-label={`Role of ${one.name}`}
      value={one.role}
      onchange={async (event) => {
        const wanted = event.currentTarget;
        if (!(await put(one.id, { role: wanted.value as One['role'] }))) wanted.value = one.role;
      }}
    >
      {#each roles as role (role.key)}<option value={role.key}>{role.name}</option>{/each}
    </select>
    <span class="quiet flex-1">{stands}</span>
    {#if leaving}
      <span
        >{one.name} is signed out everywhere, and comes in no more.
        <button class="btn btn-sm btn-primary" onclick={() => put(one.id, { left: true })}
          >They left</button
        >
        <button class="btn btn-sm" onclick={() => (leaving = false)}>Leave it</button></span
      >
    {:else}
      <button class="btn btn-sm" onclick={again}>New invitation</button>
      <button class="btn btn-sm btn-ghost" onclick={() => (leaving = true)}>They left…</button>
    {/if}
  </div>
  {#if one.role === 'owner'}<Sets {one} {put} />{/if}
</li>

<style>
  li {
    padding: 0.5rem 0;
  }
  li:first-child {
    border-top: 0;
  }
  .name {
    min-width: 11rem;
  }
  select {
    width: 10.5rem;
  }
</style>
