<script lang="ts">
  import { untrack } from 'svelte';
  import type { Schemas } from '../../api/client';
  import { count } from '../../parts/format';
  import { money } from '../../parts/money';
  import { session } from '../../state/session.svelte';
  import { WHY } from './why';

  interface Props {
    line: Schemas['CountSheetsLine'];
    currency: string;
    open: boolean;
    found: (body: Schemas['CountsFound']) => Promise<boolean>;
    settle: (let_: boolean, lines: number[]) => Promise<boolean>;
    next: (from: HTMLElement) => void;
  }
  let { line, currency, open, found, settle, next }: Props = $props();

  const STATES = { OPEN: '', COUNTED: '', WAITING: '▲ to be seen', POSTED: '✓', REFUSED: '✕ refused' };
  let units = $state<number | null>(untrack(() => line.counted));
  let why = $state(untrack(() => line.why ?? ''));
  let field = $state<HTMLInputElement>();
  const asked = $derived(open && session.packs && (line.state === 'OPEN' || line.state === 'COUNTED'));
  const differs = $derived(units != null && line.book != null && units !== line.book);
  const difference = $derived(
    line.counted != null && line.book != null ? line.counted - line.book : undefined
  );

  async function say() {
    if (units == null || (differs && !why) || (units === line.counted && why === (line.why ?? ''))) return;
    await found({
      item: line.sku,
      bin: line.bin,
      lot: line.lot,
      expires: null,
      units,
      why: differs && why ? (why as keyof typeof WHY) : null,
      note: ''
    });
  }
  async function entered(event: KeyboardEvent) {
    if (event.key !== 'Enter') return;
    event.preventDefault();
    await say();
    if (!differs && field) next(field);
  }
</script>

<tr class={['h-[34px] border-b border-line', line.state === 'POSTED' && 'text-soft']}>
  <td class="px-4 font-mono text-xs">{line.bin || '—'}</td>
  <td class="px-2"><span class="font-mono text-xs">{line.sku}</span> {line.name}</td>
  <td class="px-2 font-mono text-xs">{line.lot}</td>
  <td class="px-2 text-right text-soft">{line.book == null ? '' : count(line.book)}</td>
  <td class="px-2 text-right"
    >{#if asked}<input
        bind:this={field}
        data-units
        class="field h-7 w-20 text-right"
        type="number"
        min="0"
        aria-label="Found of {line.sku} {line.lot} in {line.bin || 'no bin'}"
        bind:value={units}
        onkeydown={entered}
        onchange={() => void say()}
      />{:else}{line.counted == null ? '—' : count(line.counted)}{/if}</td
  >
  <td class="px-2 whitespace-nowrap"
    >{#if asked && differs}<select
        class={['field h-7 py-0 ps-2 pe-7', !why && 'border-madder']}
        aria-label="Why {line.sku} differs"
        bind:value={why}
        onchange={() => void say()}
        ><option value="">why?</option>{#each Object.entries(WHY) as [value, words] (value)}<option {value}
            >{words}</option
          >{/each}</select
      >{:else if difference}<b class="font-[650] text-madder"
        >{difference > 0 ? '▲ +' : '▼ −'}{count(Math.abs(difference))}</b
      >
      <span class="text-soft"
        >{money(Math.abs(line.value ?? 0), currency)}{line.why ? `, ${WHY[line.why]}` : ''}</span
      >{/if}</td
  >
  <td class="px-2 whitespace-nowrap text-soft"
    >{line.state === 'COUNTED' ? `counted by ${line.countedBy}` : STATES[line.state]}
    {#if open && line.state === 'WAITING' && session.mayChange}<button
        class="px-1 text-verdigris hover:underline"
        onclick={() => void settle(true, [line.id])}>Let in</button
      ><button class="px-1 text-verdigris hover:underline" onclick={() => void settle(false, [line.id])}
        >Refuse</button
      >{/if}</td
  >
</tr>
