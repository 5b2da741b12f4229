<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import { word } from '../../parts/format';
  import { session } from '../../state/session.svelte';
  import { useDoing } from '../../state/doing';

  let { channelId }: { channelId: number } = $props();

  type Wording = Schemas['ChannelsWording'];
  const HOW: Wording['how'][] = ['EXACT', 'BEGINS_WITH', 'CONTAINS'];
  const LEVELS: Wording['level'][] = ['STANDARD', 'EXPRESS'];
  const run = useDoing();
  const wordings = createQuery(() => ({
    queryKey: ['channels', 'wordings', channelId],
    queryFn: () => get(api.GET('/api/channels/{id}/wordings', { params: { path: { id: channelId } } }))
  }));
  let fresh = $state<Wording>({ how: 'EXACT', wording: '', level: 'STANDARD' });

  const params = $derived({ path: { id: channelId } });
  const learn = (w: Wording) =>
    run(
      get(api.POST('/api/channels/{id}/wordings', { params, body: w })),
      `“${w.wording}” means ${word(w.level)} from now on`
    );
  const forget = (w: Wording) =>
    run(
      get(api.POST('/api/channels/{id}/wordings/forget', { params, body: w })),
      `“${w.wording}” is unknown again`
    );
  const add = async (event: SubmitEvent) => {
    event.preventDefault();
    await learn(fresh);
    fresh = { ...fresh, wording: '' };
  };
</script>

<table>
  <tbody>
    {#each wordings.data ?? [] as w (w.how + w.wording)}
      <tr class="h-8 border-t border-line first:border-0"
        ><td class="pe-3 text-soft">{w.how === 'EXACT' ? 'is' : word(w.how)}</td><td class="pe-3 font-[550]"
          >“{w.wording}”</td
        ><td class="pe-3 text-soft">means</td><td class="pe-3"
          ><select
            class="field h-7 w-36 py-0"
            aria-label="What {w.wording} means"
            disabled={!session.mayChange}
            value={w.level}
            onchange={(event) => void learn({ ...w, level: event.currentTarget.value as Wording['level'] })}
            >{#each LEVELS as level (level)}<option value={level}>{word(level)} service</option
              >{/each}</select
          ></td
        ><td
          >{#if session.mayChange}<Button small onclick={() => void forget(w)}>Forget</Button>{/if}</td
        ></tr
      >
    {:else}
      <tr
        ><td class="text-soft">None yet: an unknown wording becomes a snag, and its meaning is remembered.</td
        ></tr
      >
    {/each}
  </tbody>
</table>
{#if session.mayChange}
  <form class="mt-3 flex items-center gap-2 border-t border-line pt-3" onsubmit={add}>
    <select class="field h-7 w-32 py-0" aria-label="How it is compared" bind:value={fresh.how}
      >{#each HOW as how (how)}<option value={how}>{how === 'EXACT' ? 'is' : word(how)}</option
        >{/each}</select
    >
    <input
      class="field h-7 w-56"
      aria-label="The channel’s wording"
      placeholder="The channel’s wording"
      maxlength="120"
      required
      bind:value={fresh.wording}
    />
    <span class="text-soft">means</span>
    <select class="field h-7 w-36 py-0" aria-label="Its level" bind:value={fresh.level}
      >{#each LEVELS as level (level)}<option value={level}>{word(level)} service</option>{/each}</select
    >
    <Button small main type="submit">Add</Button>
  </form>
{/if}
