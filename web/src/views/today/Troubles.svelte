<!-- Work of the application's own that fails again and again: somebody has to look into it. -->
<script lang="ts">
  import type { Schemas } from '../../api/client';
  import { moment, plural } from '../../parts/format';

  interface Props {
    troubles: Schemas['TodayTrouble'][];
  }
  let { troubles }: Props = $props();
</script>

{#each troubles as t (t.name)}
  <p class="flex flex-wrap items-baseline gap-x-2 py-1" role="status">
    <b class="font-[650] text-madder">▲ {t.name.replaceAll('-', ' ')} fails</b>
    <span>{plural(t.failures, 'time')} in a row since {moment(t.since)}: {t.error}</span>
  </p>
{/each}
