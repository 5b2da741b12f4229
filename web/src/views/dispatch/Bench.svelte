<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query';
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import { day, fullDay, plural, stands } from '../../parts/format';
  import { go } from '../../state/address';
  import { session } from '../../state/session.svelte';
  import RefusalDialog from './RefusalDialog.svelte';
  import UncollectedDialog from './UncollectedDialog.svelte';

  let { params }: { params: { id: string } } = $props();

  const id = $derived(Number(params.id));
  const client = useQueryClient();
  const path = $derived({ params: { path: { id } } });
  const bench = createQuery(() => ({
    queryKey: ['dispatch', 'bench', id],
    queryFn: () => get(api.GET('/api/dispatch/consignments/{id}', path))
  }));
  const data = $derived(bench.data);
  const at = $derived(data?.consignment.state);
  const collected = $derived(data?.consignment.collected ?? false);
  const complete = $derived(data?.lines.every((l) => l.packed === l.quantity) ?? false);

  let code = $state('');
  let said = $state<{ text: string; bad: boolean }>({ text: '', bad: false });
  /** The SKU of the unit whose serial number comes next. */
  let serialOf = $state<string>();
  let busy = $state(false);
  let refusing = $state(false);
  let uncollected = $state(false);
  let field = $state<HTMLInputElement>();
  $effect(() => {
    if (at === 'RELEASED') field?.focus();
  });

  function show(next: Schemas['DispatchBench']) {
    client.setQueryData(['dispatch', 'bench', id], next);
  }

  /** Two fast scans are two scans, one after the other. */
  let before: Promise<unknown> = Promise.resolve();
  let waiting = 0;

  /** Does one thing after the other; undefined if it was refused. */
  function run<T>(what: () => Promise<T>): Promise<T | undefined> {
    const mine = before.then(async () => {
      try {
        return await what();
      } catch (error) {
        said = { text: error instanceof Error ? error.message : String(error), bad: true };
        return undefined;
      } finally {
        busy = --waiting > 0;
        field?.focus();
      }
    });
    busy = ++waiting > 0;
    before = mine;
    return mine;
  }

  /** One field for the scanner: units while packing, then Enter alone for what comes next. */
  async function scan(event: SubmitEvent) {
    event.preventDefault();
    const text = code.trim();
    code = '';
    if (!text) {
      if (at === 'RELEASED' && complete) await close();
      return;
    }
    await run(async () => {
      const of = serialOf ?? null;
      serialOf = undefined;
      const answer = await get(
        api.POST('/api/dispatch/consignments/{id}/scans', { ...path, body: { code: text, of } })
      );
      serialOf = answer.serialOf ?? undefined;
      show(answer.bench);
      said = { text: answer.message, bad: !['COUNTED', 'NEEDS_SERIAL'].includes(answer.result) };
    });
  }

  async function close() {
    const next = await run(() => get(api.POST('/api/dispatch/consignments/{id}/label', path)));
    if (next) {
      show(next);
      const label = `Label ${next.parcels[0]?.tracking ?? ''} is ready to print`;
      said = { text: collected ? 'Ready: the buyer is told' : label, bad: false };
    }
  }

  async function handOver() {
    const next = await run(() => get(api.POST('/api/dispatch/consignments/{id}/hand-over', path)));
    if (next) {
      show(next);
      said = { text: `${collected ? 'The buyer' : next.consignment.carrier} has it`, bad: false };
    }
  }

  async function unpacked() {
    const next = await run(() => get(api.POST('/api/dispatch/consignments/{id}/unpacked', path)));
    if (next) {
      show(next);
      said = { text: 'Its goods lie where they lay', bad: false };
    }
  }

  async function startOver() {
    serialOf = undefined;
    const done = await run(async () => {
      await get(api.POST('/api/dispatch/consignments/{id}/start-over', path));
      return true;
    });
    if (done) said = { text: 'Everything is out again', bad: false };
    await bench.refetch();
  }
</script>

<svelte:window
  onkeydown={(event) => event.key === 'Escape' && !document.querySelector('dialog[open]') && go('/dispatch')}
/>

<div class="min-h-0 flex-1 overflow-y-auto px-6 py-4">
  {#if data}
    {@const c = data.consignment}
    <header class="flex items-baseline gap-3">
      <h1 class="font-mono">{c.number}</h1>
      <span class="text-base" dir="auto">{c.buyer}</span>
      <span class="text-soft"
        >{c.nodeName} · {c.collected
          ? `the buyer collects it · to be ready by ${day(c.shipBy)}`
          : `${c.carrier} ${c.service} · leaves by ${day(c.shipBy)}`}</span
      >
      <a class="ms-auto text-verdigris hover:underline" href="#/dispatch">back to the list</a>
    </header>
    <p class="mt-1 text-soft" dir="auto">{data.shipTo}</p>
    {#if data.instructions}<p class="mt-1 font-semibold text-amber-ink" dir="auto">
        {data.instructions}
      </p>{/if}
    {#if data.giftMessage}<p class="mt-1" dir="auto">
        <span class="text-soft">Gift message:</span>
        {data.giftMessage}
      </p>{/if}

    <div class="mt-4 grid max-w-5xl gap-6 lg:grid-cols-[1fr_20rem]">
      <table class="card w-full self-start text-[1.15rem] leading-7">
        <thead
          ><tr
            ><th class="px-4 py-2">Item</th><th class="px-4">Code</th><th class="px-4 text-right"
              >In the parcel</th
            ></tr
          ></thead
        >
        <tbody>
          {#each data.lines as line, i (line.id)}
            {@const done = line.packed === line.quantity}
            {#if line.kit && line.kit !== data.lines[i - 1]?.kit}
              <tr class="border-t border-line"
                ><td class="px-4 pt-2 text-base font-[650]" colspan="3">{line.kit}, of:</td></tr
              >
            {/if}
            <tr class={['border-t border-line', done && 'bg-verdigris-wash']}>
              <td class={['py-2 pe-4', line.kit ? 'ps-8' : 'ps-4']}
                >{line.name}
                {#each line.wishes as wish, j (j)}<span class="block text-base font-semibold" dir="auto"
                    >{#if wish.name}<span class="font-normal text-soft">{wish.name}:</span>{/if}
                    {wish.text}
                    {#if wish.file}<span class="font-mono text-xs">{wish.file}</span>{/if}</span
                  >{/each}
                {#each line.from as f, j (j)}<span class="block text-base text-soft"
                    >{f.units != null ? `${f.units} from ` : ''}{f.bin ? `bin ${f.bin}` : ''}{f.bin && f.lot
                      ? ', '
                      : ''}{#if f.lot}{line.bySerial ? 'number' : 'lot'}
                      <b class="font-mono font-semibold text-ink">{f.lot}</b>{/if}{f.expires
                      ? `, until ${fullDay(f.expires)}`
                      : ''}</span
                  >{/each}</td
              >
              <td class="px-4 font-mono text-sm"
                >{line.sku}<br /><span class="text-soft">{line.gtin ?? ''}</span></td
              >
              <td class="px-4 text-right whitespace-nowrap"
                ><b class="font-[650]">{line.packed}</b> of {line.quantity}
                <span aria-hidden="true" class={done ? 'text-verdigris' : 'invisible'}>✓</span></td
              >
            </tr>
          {/each}
        </tbody>
      </table>

      <section class="space-y-3" aria-label="Packing">
        {#if at === 'RELEASED' && session.packs}
          <form onsubmit={scan}>
            <label class="block text-soft"
              >{serialOf ? `Scan the serial number of ${serialOf}` : 'Scan each unit'}
              <input
                bind:this={field}
                bind:value={code}
                class="field mt-1 block w-full py-2 font-mono text-[1.3rem]"
                autocomplete="off"
                spellcheck="false"
              />
            </label>
          </form>
        {/if}
        <p
          class={[
            'min-h-14 rounded-md px-3 py-2 text-[1.15rem]',
            said.text && (said.bad ? 'bg-madder-wash text-madder' : 'bg-verdigris-wash')
          ]}
          role="status"
          aria-live="assertive"
        >
          {#if said.text}{said.bad ? '✕' : '✓'} {said.text}{/if}
        </p>
        {#if session.packs && at === 'RELEASED'}
          <div class="flex gap-2">
            <Button main disabled={!complete || busy} onclick={close} key="↵"
              >{collected ? 'Ready to be collected' : 'Close and get the label'}</Button
            >
            <Button disabled={busy || !c.packed} onclick={startOver}>Start over</Button>
            <Button disabled={busy} onclick={() => (refusing = true)}>Can’t fill it</Button>
          </div>
          {#if !complete}<p class="text-soft">{plural(c.units - c.packed, 'unit')} to go</p>{/if}
        {:else if session.packs && at === 'PACKED'}
          <div class="flex gap-2">
            <Button main disabled={busy} onclick={handOver}
              >{collected ? 'The buyer has collected it' : `Hand over to ${c.carrier}`}</Button
            >
            {#if collected}<Button disabled={busy} onclick={() => (uncollected = true)}>Not collected…</Button
              >{/if}
          </div>
          <p class="text-soft">
            {collected
              ? 'Then stock leaves, and the channel is told.'
              : 'Once handed over, stock leaves, and channel and buyer are told.'} That can’t be undone.
          </p>
        {:else if session.packs && c.toUnpack}
          <Button main disabled={busy} onclick={unpacked}>It is unpacked</Button>
          <p class="text-soft">
            It was taken back and is not sent: take its goods out, and put them where they lay. Its label is
            void.
          </p>
        {:else}
          <p class="text-base">{stands(c.state, c.collected)}</p>
        {/if}
        {#each data.parcels as parcel (parcel.id)}
          <p>
            Parcel <span class="font-mono text-xs">{parcel.tracking}</span> · SSCC
            <span class="font-mono text-xs">{parcel.sscc}</span><br />
            <a
              class="text-verdigris underline"
              href="/api/dispatch/parcels/{parcel.id}/label.pdf"
              target="_blank">Label</a
            >
          </p>
        {/each}
        <p>
          <a class="text-verdigris underline" href="/api/dispatch/consignments/{id}/slip.pdf" target="_blank"
            >Packing slip</a
          >
        </p>
      </section>
    </div>
  {:else if bench.isError}
    <h1>That consignment is not here</h1>
    <p class="mt-2 text-soft">
      {bench.error.message}. <a class="text-verdigris underline" href="#/dispatch">Back to the list</a>
    </p>
  {:else}
    <p class="text-soft">Reading…</p>
  {/if}
</div>
{#if refusing && data}<RefusalDialog bind:open={refusing} bench={data} />{/if}
{#if uncollected && data}<UncollectedDialog bind:open={uncollected} bench={data} />{/if}
