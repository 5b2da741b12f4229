<script lang="ts">
  import { untrack } from 'svelte';
  import type { Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import { word } from '../../parts/format';
  import { blankRung } from './ladders';
  import type { Ladder, Rung } from './model';

  interface Props {
    ladder: Ladder;
    nodes: Schemas['StockGridNodeHead'][];
    kinds: readonly NonNullable<Rung['nodes']['kinds']>[number][];
    problem: string;
    onkeep: (ladder: Ladder) => void;
    onleave: () => void;
  }
  let { ladder, nodes, kinds, problem, onkeep, onleave }: Props = $props();

  let draft = $state<Ladder>(untrack(() => $state.snapshot(ladder)));
  const LIST = 'field h-7 py-0 ps-2 pe-7';
  type From = 'all' | 'kinds' | 'codes';
  const from = (rung: Rung): From => (rung.nodes.codes ? 'codes' : rung.nodes.kinds ? 'kinds' : 'all');

  function choose(rung: Rung, how: From) {
    rung.nodes.kinds = how === 'kinds' ? [kinds[0]!] : null;
    rung.nodes.codes = how === 'codes' ? [nodes[0]?.code ?? ''] : null;
  }
  function toggle<T>(list: T[], one: T): T[] {
    return list.includes(one) ? (list.length > 1 ? list.filter((o) => o !== one) : list) : [...list, one];
  }
  function move(at: number, by: number) {
    const rungs = [...draft.rungs];
    const [rung] = rungs.splice(at, 1);
    rungs.splice(at + by, 0, rung!);
    draft.rungs = rungs;
  }
</script>

<form
  class="card space-y-3 px-4 py-3"
  aria-label="The ladder"
  onsubmit={(event) => {
    event.preventDefault();
    onkeep($state.snapshot(draft));
  }}
>
  <label class="flex items-center gap-2 text-soft"
    >Its name<input
      class="field h-7 w-64 text-ink"
      maxlength="80"
      required
      bind:value={draft.name}
      data-autofocus
    /></label
  >
  <ol class="space-y-3">
    {#each draft.rungs as rung, i (i)}
      <li class="space-y-1.5 border-s-[3px] border-ink ps-3">
        <div class="flex flex-wrap items-center gap-1.5">
          <input
            class="field h-7 w-64 font-[600]"
            maxlength="80"
            required
            aria-label="Name of rung {i + 1}"
            placeholder="what this rung tries"
            bind:value={rung.name}
          />
          <Button small disabled={i === 0} title="Tried earlier" onclick={() => move(i, -1)}>↑</Button>
          <Button small disabled={i === draft.rungs.length - 1} title="Tried later" onclick={() => move(i, 1)}
            >↓</Button
          >
          {#if draft.rungs.length > 1}<Button
              small
              onclick={() => (draft.rungs = draft.rungs.filter((_, k) => k !== i))}>Without it</Button
            >{/if}
        </div>
        <div class="flex flex-wrap items-center gap-1.5">
          <select
            class={LIST}
            aria-label="From which nodes, rung {i + 1}"
            value={from(rung)}
            onchange={(event) => choose(rung, event.currentTarget.value as From)}
            ><option value="all">from any node</option><option value="kinds">from nodes of a kind</option
            ><option value="codes">from these nodes</option></select
          >
          {#if rung.nodes.kinds}
            {#each kinds as kind (kind)}<label class="flex items-center gap-1"
                ><input
                  type="checkbox"
                  checked={rung.nodes.kinds.includes(kind)}
                  onchange={() => (rung.nodes.kinds = toggle(rung.nodes.kinds ?? [], kind))}
                />{word(kind)}</label
              >{/each}
          {:else if rung.nodes.codes}
            {#each nodes as node (node.code)}<label class="flex items-center gap-1"
                ><input
                  type="checkbox"
                  checked={rung.nodes.codes.includes(node.code)}
                  onchange={() => (rung.nodes.codes = toggle(rung.nodes.codes ?? [], node.code))}
                />{node.name}</label
              >{/each}
          {/if}
          <label class="flex items-center gap-1"
            ><input type="checkbox" bind:checked={rung.nodes.sameCountry} />of the order’s country</label
          >
        </div>
        <div class="flex flex-wrap items-center gap-1.5">
          <span>at most</span>
          <input
            class="field h-7 w-16 text-right"
            type="number"
            min="1"
            max="12"
            required
            aria-label="Consignments, rung {i + 1}"
            bind:value={rung.maxConsignments}
          />
          <span>{rung.maxConsignments === 1 ? 'consignment' : 'consignments'},</span>
          <select class={LIST} aria-label="How much of it, rung {i + 1}" bind:value={rung.cover}
            ><option value="WHOLE">all of it,</option><option value="MOST"
              >as much as there is; the rest waits,</option
            ></select
          >
          <select class={LIST} aria-label="How late, rung {i + 1}" bind:value={rung.late}
            ><option value="FORBID">in time</option><option value="ALLOW">even if it is late</option></select
          >
        </div>
      </li>
    {/each}
  </ol>
  <div class="flex items-center gap-2">
    <Button small onclick={() => (draft.rungs = [...draft.rungs, blankRung()])}>And if none can…</Button>
    <span class="ms-auto flex gap-2"
      ><Button small onclick={onleave}>Leave it</Button><Button main small type="submit">Keep</Button></span
    >
  </div>
  {#if problem}<p class="text-madder" role="alert">{problem}</p>{/if}
</form>
