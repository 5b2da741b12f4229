<script lang="ts">
  import { ago, fullMoment } from '../../parts/format';
  import type { Health } from './health';

  let { health }: { health: Health } = $props();
</script>

<span class={['block truncate', health.bad && 'text-madder']} title={health.words}
  ><span aria-hidden="true" class="inline-block w-4">{health.shape}</span>{health.words}</span
>
{#if health.last}<span class="block ps-4 text-xs text-soft" title={fullMoment(health.last)}
    >{ago(health.last)}</span
  >{/if}
