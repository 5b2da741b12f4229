<!-- What a move would do, before it is done. -->
<script lang="ts">
  import type { Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import { day, plural } from '../../parts/format';

  interface Props {
    effects: Schemas['ItemQueueEffect'][];
    onmove: () => void;
    onleave: () => void;
  }
  let { effects, onmove, onleave }: Props = $props();

  const self = $derived(effects[0]);
  const others = $derived(effects.slice(1));
  const when = (date: string | null) => (date ? day(date) : 'no day');
  const later = $derived(
    others.filter((e) => e.readyBefore && (!e.readyAfter || e.readyAfter > e.readyBefore))
  );
</script>

<div class="border-t border-line bg-sunk px-4 py-2.5" role="status" aria-label="What the move does">
  {#if self}
    <p>
      <b class="font-[650]">{self.orderNumber}</b> from place {self.placeBefore} to {self.placeAfter}:
      {#if self.readyBefore === self.readyAfter}served as before, {when(self.readyAfter)}{:else}served {when(
          self.readyBefore
        )} → <b class="font-[650]">{when(self.readyAfter)}</b>{/if}{others.length
        ? later.length
          ? `; ${plural(later.length, 'other')} later`
          : `; ${plural(others.length, 'other')} sooner`
        : '; for nobody else anything changes'}.
    </p>
    <ul class="max-h-24 overflow-y-auto">
      {#each others as e (e.id)}
        <li class="flex gap-2">
          <span class="font-mono text-xs">{e.orderNumber}</span><span
            class="min-w-0 flex-1 truncate"
            dir="auto">{e.buyer}</span
          ><span
            >{when(e.readyBefore)} → <b class="font-[650]">{when(e.readyAfter)}</b>{#if e.promisedOn}<span
                class="text-soft"
              >
                · promised {day(e.promisedOn)}</span
              >{/if}</span
          >
        </li>
      {/each}
    </ul>
  {/if}
  <p class="mt-2 flex gap-2">
    <Button main small key="↵" onclick={onmove}>Move it</Button>
    <Button small key="Esc" onclick={onleave}>Leave it</Button>
  </p>
</div>
