<script lang="ts">
  import { api, get, logIn } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import Mark from '../../parts/Mark.svelte';

  let { onentered }: { onentered: () => void } = $props();

  let first = $state(false);
  let username = $state('');
  let displayName = $state('');
  let password = $state('');
  let problem = $state('');
  let busy = $state(false);

  void get(api.GET('/api/setup')).then((setup) => (first = setup.needed));

  async function enter(event: SubmitEvent) {
    event.preventDefault();
    problem = '';
    busy = true;
    try {
      if (first) await get(api.POST('/api/setup', { body: { username, displayName, password } }));
      const result = await logIn(username, password);
      if (result === 'in') onentered();
      else
        problem =
          result === 'wrong'
            ? 'The name is unknown or the password is wrong.'
            : 'Too many failures; wait five minutes, then try again.';
    } catch (error) {
      problem = error instanceof Error ? error.message : String(error);
    } finally {
      busy = false;
    }
  }
</script>

<main class="grid min-h-full place-items-center">
  <form class="card w-80 space-y-3 p-6" onsubmit={enter}>
    <div class="flex items-center gap-2 text-base font-[650]"><Mark /> Ordinator</div>
    <h1 class="text-base">{first ? 'Create the first manager' : 'Log in'}</h1>
    {#if first}
      <label class="block text-soft"
        >Your name
        <input
          class="field mt-1 block w-full"
          bind:value={displayName}
          required
          maxlength="80"
          autocomplete="name"
        />
      </label>
    {/if}
    <label class="block text-soft"
      >Log-in name
      <input class="field mt-1 block w-full" bind:value={username} required autocomplete="username" />
    </label>
    <label class="block text-soft"
      >Password
      <input
        class="field mt-1 block w-full"
        type="password"
        bind:value={password}
        required
        minlength={first ? 10 : 1}
        autocomplete={first ? 'new-password' : 'current-password'}
      />
    </label>
    <p class="min-h-5 text-madder" role="alert">{problem}</p>
    <Button main type="submit" disabled={busy}>{first ? 'Create and enter' : 'Enter'}</Button>
  </form>
</main>
