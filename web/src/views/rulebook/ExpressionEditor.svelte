<!-- What the builder can't say: a condition in CEL, looked at as it is written. -->
<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, get } from '../../api/client';
  import type { Name } from './model';

  interface Props {
    text: string;
    names: Name[];
    onchange: (text: string) => void;
    onremove: () => void;
  }
  let { text, names, onchange, onremove }: Props = $props();

  const id = $props.id();
  const faults = createQuery(() => ({
    queryKey: ['rulebook', 'expression', text],
    enabled: text.trim() !== '',
    staleTime: Infinity,
    queryFn: () => get(api.POST('/api/rulebook/expressions', { body: { text } }))
  }));
  const fault = $derived(faults.data?.[0]);
  // the line of the first fault, and where in it
  const line = $derived(fault ? (text.split('\n')[fault.line - 1] ?? '') : '');
</script>

<div class="max-w-2xl">
  <span class="flex items-start gap-1">
    <textarea
      class="field block w-full py-1 font-mono text-[0.8rem] leading-snug"
      rows={Math.min(8, text.split('\n').length + 1)}
      maxlength="1000"
      aria-label="Expression"
      aria-invalid={fault !== undefined}
      aria-describedby={id}
      placeholder="country != 'NL' && skus.exists(s, s.startsWith('FR-'))"
      spellcheck="false"
      required
      value={text}
      oninput={(event) => onchange(event.currentTarget.value)}></textarea>
    <button
      type="button"
      class="px-1 text-soft hover:text-madder"
      aria-label="Without this expression"
      onclick={onremove}>✕</button
    >
  </span>
  <div {id} class="pt-0.5 text-xs">
    {#if fault}
      <span class="font-mono whitespace-pre text-soft" aria-hidden="true"
        >{line.slice(0, fault.column - 1)}<u class="text-madder decoration-2"
          >{line.slice(fault.column - 1, fault.column) || ' '}</u
        >{line.slice(fault.column)}</span
      >
      <span class="block text-madder" role="status"
        >Line {fault.line}, column {fault.column}: {fault.what}</span
      >
    {:else}
      <details class="text-soft">
        <summary class="cursor-pointer">{text.trim() ? 'Sound. ' : ''}What it can ask for</summary>
        <span class="block pt-1 font-mono"
          >{#each names as name, i (name.name)}{i ? ', ' : ''}<b class="font-normal text-ink">{name.name}</b>
            {name.type}{/each}</span
        >
        <span class="block pt-1"
          >Value in cents, weight in grams, weekday as MONDAY. In CEL, the Common Expression Language; what
          can’t be worked out for an order does not hold.</span
        >
      </details>
    {/if}
  </div>
</div>
