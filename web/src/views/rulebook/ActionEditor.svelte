<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, get, type Schemas } from '../../api/client';
  import { word } from '../../parts/format';
  import { blankAction, type Action } from './model';
  import { ACTIONS } from './sentence';

  interface Props {
    action: Action;
    ladders: string[];
    nodes: Schemas['StockGridNodeHead'][];
    levels: string[];
    onchange: (action: Action) => void;
    onremove?: () => void;
  }
  let { action, ladders, nodes, levels, onchange, onremove }: Props = $props();

  const colleagues = createQuery(() => ({
    queryKey: ['orders', 'colleagues'],
    queryFn: () => get(api.GET('/api/orders/colleagues')),
    enabled: action.do === 'assign'
  }));
  const LIST = 'field h-7 py-0 ps-2 pe-7';
</script>

<span class="inline-flex flex-wrap items-center gap-1">
  <select
    class={LIST}
    aria-label="What is done"
    value={action.do}
    onchange={(event) =>
      onchange(
        blankAction(
          event.currentTarget.value as Action['do'],
          ladders,
          nodes.map((n) => n.code)
        )
      )}
  >
    {#each Object.entries(ACTIONS) as [kind, words] (kind)}<option value={kind}>{words}</option>{/each}
  </select>
  {#if action.do === 'addTag' || action.do === 'removeTag'}
    <input
      class="field h-7 w-40"
      aria-label="Tag"
      maxlength="40"
      required
      value={action.tag}
      onchange={(event) => onchange({ ...action, tag: event.currentTarget.value.trim() })}
    />
  {:else if action.do === 'setPriority'}
    <select
      class={LIST}
      aria-label="Priority class"
      value={action.priorityClass}
      onchange={(event) => onchange({ ...action, priorityClass: Number(event.currentTarget.value) })}
      >{#each [1, 2, 3, 4, 5, 6, 7, 8, 9] as n (n)}<option value={n}
          >{n}{n === 1 ? ', served first' : n === 5 ? ', the usual' : ''}</option
        >{/each}</select
    >
  {:else if action.do === 'setLevel'}
    <select
      class={LIST}
      aria-label="Level"
      value={action.level}
      onchange={(event) => onchange({ ...action, level: event.currentTarget.value })}
      >{#each levels as level (level)}<option value={level}>{word(level)}</option>{/each}</select
    >
  {:else if action.do === 'hold'}
    <input
      class="field h-7 w-64"
      aria-label="Reason"
      maxlength="200"
      required
      value={action.reason}
      onchange={(event) => onchange({ ...action, reason: event.currentTarget.value.trim() })}
    />
  {:else if action.do === 'useLadder'}
    <select
      class={LIST}
      aria-label="Ladder"
      value={action.ladder}
      onchange={(event) => onchange({ ...action, ladder: event.currentTarget.value })}
      >{#each ladders as ladder (ladder)}<option value={ladder}>{ladder}</option>{/each}</select
    >
  {:else if action.do === 'excludeNode' || action.do === 'preferNode'}
    <select
      class={LIST}
      aria-label="Node"
      value={action.node}
      onchange={(event) => onchange({ ...action, node: event.currentTarget.value })}
      >{#each nodes as node (node.code)}<option value={node.code}>{node.name}</option>{/each}</select
    >
  {:else if action.do === 'split' || action.do === 'waiting' || action.do === 'inPart' || action.do === 'replacing'}
    <select
      class={LIST}
      aria-label="Whether it is allowed"
      value={String(action.allowed)}
      onchange={(event) => onchange({ ...action, allowed: event.currentTarget.value === 'true' })}
      ><option value="false">forbidden</option><option value="true">allowed</option></select
    >
  {:else if action.do === 'assign'}
    <select
      class={LIST}
      aria-label="Colleague"
      required
      value={action.to}
      onchange={(event) => onchange({ ...action, to: event.currentTarget.value })}
      ><option value="">whom?</option>{#each colleagues.data ?? [] as c (c.username)}<option
          value={c.username}>{c.name}</option
        >{/each}</select
    >
  {:else if action.do === 'putOnList'}
    <input
      class="field h-7 w-40"
      aria-label="List"
      maxlength="40"
      required
      value={action.name}
      onchange={(event) => onchange({ ...action, name: event.currentTarget.value.trim() })}
    />
  {:else if action.do === 'addNote'}
    <input
      class="field h-7 w-64"
      aria-label="Note"
      maxlength="1000"
      required
      value={action.text}
      onchange={(event) => onchange({ ...action, text: event.currentTarget.value.trim() })}
    />
  {:else if action.do === 'notify'}
    <input
      class="field h-7 w-64"
      type="email"
      aria-label="Mail address"
      required
      value={action.to}
      onchange={(event) => onchange({ ...action, to: event.currentTarget.value.trim() })}
    />
  {/if}
  {#if onremove}<button
      type="button"
      class="px-1 text-soft hover:text-madder"
      aria-label="Don’t do that"
      onclick={onremove}>✕</button
    >{/if}
</span>
