<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, get } from '../../api/client';
  import { fullMoment, moment, plural } from '../../parts/format';
  import { EVENTS } from '../rulebook/sentence';

  let { id }: { id: number } = $props();

  const looks = createQuery(() => ({
    queryKey: ['rules of', id],
    queryFn: () => get(api.GET('/api/orders/{id}/rules', { params: { path: { id } } }))
  }));
  let all = $state(false);
</script>

{#if looks.data?.length}
  <section class="mt-5">
    <p class="flex items-baseline">
      <b class="font-[650]">Rules that looked at it</b>
      <label class="ms-auto flex items-center gap-1.5 text-xs text-soft"
        ><input type="checkbox" bind:checked={all} /> those that did not hold, too</label
      >
    </p>
    <ul class="mt-1">
      {#each looks.data as look, i (i)}
        {@const held = look.rules.filter((r) => r.held)}
        <li class="border-t border-line py-1.5">
          <span class="flex text-soft"
            ><span
              >{EVENTS[look.event]} · edition {look.edition} · {plural(look.rules.length, 'rule')} tried, {held.length}
              held</span
            ><time class="ms-auto" datetime={look.at} title={fullMoment(look.at)}>{moment(look.at)}</time
            ></span
          >
          {#each all ? look.rules : held as rule (rule.id)}
            <span class={['block', !rule.held && 'text-soft']}
              ><a class="text-verdigris underline" href="#/rulebook?rule={rule.id}">{rule.name}</a>
              {rule.held ? `: ${rule.did.join('; ')}` : ' ✕ did not hold'}</span
            >
          {/each}
        </li>
      {/each}
    </ul>
  </section>
{/if}
