<!-- What is in a zone, or in a new one. -->
<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { untrack } from 'svelte';
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import Dialog from '../../parts/Dialog.svelte';
  import { word } from '../../parts/format';
  import { useDoing } from '../../state/doing';
  import { partsOf, saysParts } from './rates';

  interface Props {
    open: boolean;
    /** its code; empty: a new one */
    zone: string;
  }
  let { open = $bindable(), zone }: Props = $props();

  const run = useDoing();
  const known = untrack(() => zone);
  let code = $state(known);
  let text = $state<string>();
  let problem = $state('');
  const query = createQuery(() => ({
    queryKey: ['network', 'zone', known],
    enabled: known !== '',
    queryFn: () => get(api.GET('/api/network/zones/{zone}', { params: { path: { zone: known } } }))
  }));
  const before = $derived(query.data ?? []);

  async function keep(event: SubmitEvent) {
    event.preventDefault();
    const was = before;
    const put = (body: Schemas['ZonesPart'][]) =>
      get(api.PUT('/api/network/zones/{zone}', { params: { path: { zone: code.trim() } }, body }));
    try {
      await put(partsOf(text ?? saysParts(before)));
      open = false;
      await run(
        Promise.resolve(),
        `${word(code)} is so from now on`,
        known ? () => void run(put(was), 'It is as before') : undefined
      );
    } catch (error) {
      problem = error instanceof Error ? error.message : String(error);
    }
  }
</script>

<Dialog bind:open title={known ? `What is in ${word(known)}?` : 'A new zone'}>
  <form class="space-y-3" onsubmit={keep}>
    {#if !known}
      <label class="block text-soft"
        >Its code<input
          class="field mt-1 block h-8 w-full text-ink"
          required
          maxlength="20"
          bind:value={code}
          data-autofocus
        /></label
      >
    {/if}
    <label class="block text-soft"
      >A country a line, and what its postcodes begin with if it is not all of it<textarea
        class="field mt-1 block w-full font-mono text-xs text-ink"
        rows="8"
        placeholder="NL"
        value={text ?? saysParts(before)}
        oninput={(e) => (text = e.currentTarget.value)}></textarea></label
    >
    {#if problem}<p class="text-madder" role="alert">{problem}</p>{/if}
    <Button main type="submit" disabled={text === undefined}>Keep</Button>
  </form>
</Dialog>
