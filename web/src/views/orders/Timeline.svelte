<script lang="ts">
  import type { Schemas } from '../../api/client';
  import { fullMoment, moment } from '../../parts/format';

  let { entries }: { entries: Schemas['EventsEntry'][] } = $props();
</script>

<ol>
  {#each entries.toReversed() as entry (entry.id)}
    <li class="grid grid-cols-[6.6rem_1fr] border-b border-line py-1.5">
      <time class="text-soft" datetime={entry.at} title={fullMoment(entry.at)}>{moment(entry.at)}</time>
      <div>
        <span class={entry.kind === 'NOTE' ? 'italic' : ''} dir="auto">{entry.text}</span>
        <span class="text-soft">· {entry.actor}</span>
        {#if entry.why}<div class="text-soft">{entry.why}</div>{/if}
      </div>
    </li>
  {/each}
</ol>
