<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, get } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import { count, plural } from '../../parts/format';
  import { session } from '../../state/session.svelte';
  import AssembleDialog from './AssembleDialog.svelte';
  import KitDialog from './KitDialog.svelte';
  import { choices, limits, WHEN } from './kits';

  let { id, sku }: { id: number; sku: string } = $props();

  let changing = $state(false);
  let assembling = $state(false);
  const kit = createQuery(() => ({
    queryKey: ['stock', 'kit', id],
    queryFn: () => get(api.GET('/api/stock/items/{id}/kit', { params: { path: { id } } }))
  }));
  const sheet = $derived(kit.data);
  const always = $derived(sheet?.parts.filter((p) => !p.choice) ?? []);
  const asked = $derived(choices(sheet?.parts ?? []));
</script>

{#if sheet}
  {#if sheet.explode}
    <h3 class="mt-4 font-[650]">
      Kit of {plural(always.length, 'component')}{asked.map(
        (c) => `, and a ${c.name.toLowerCase()} to choose`
      )}
    </h3>
    <p class="text-soft">{WHEN[sheet.explode]}</p>
    <table class="mt-1 w-full">
      <tbody>
        {#each always as part (part.sku)}
          <tr class="border-t border-line">
            <td class="w-8 py-0.5 text-right align-top">{part.quantity} ×</td>
            <td class="px-2 py-0.5"
              ><a class="hover:underline" href="#/stock/{part.itemId}">{part.name}</a>{#if part.isKit}<span
                  class="text-soft">, a kit itself</span
                >{/if}</td
            >
          </tr>
        {/each}
        {#each asked as choice (choice.name)}
          <tr class="border-t border-line">
            <td class="w-8 py-0.5 text-right align-top">{choice.options[0]?.quantity} ×</td>
            <td class="px-2 py-0.5"
              >{choice.name}:
              {#each choice.options as option, i (option.sku)}{i ? ', ' : ''}<a
                  class="hover:underline"
                  title={option.name}
                  href="#/stock/{option.itemId}">{option.label || option.sku}</a
                >{/each}</td
            >
          </tr>
        {/each}
      </tbody>
    </table>
    {#each sheet.nodes as node (node.nodeId)}
      <p class="flex justify-between gap-3 border-t border-line py-1">
        <span class="flex-none"
          >{node.node}: <b class="font-[650]">{count(node.available)}</b> can be had{node.ready
            ? `, ${count(node.ready)} of them ready-made`
            : ''}</span
        >
        <span
          class="min-w-0 truncate text-soft"
          title="Keeps it from being one more: {node.limiting.join(', ')}">{limits(node.limiting)}</span
        >
      </p>
    {/each}
  {/if}
  {#each sheet.within as other, i (other.itemId)}
    {#if i === 0}<h3 class="mt-4 font-[650]">Component of</h3>{/if}
    <p class="flex justify-between border-t border-line py-1">
      <a class="hover:underline" href="#/stock/{other.itemId}">{other.name}</a><span class="text-soft"
        >{count(other.quantity)} in each</span
      >
    </p>
  {/each}
  {#if session.mayChange}
    <div class="mt-2 flex gap-2">
      {#if sheet.explode}
        <Button small onclick={() => (assembling = true)}>Put together or take apart</Button>
        <Button small onclick={() => (changing = true)}>Change the kit</Button>
      {:else}
        <Button small onclick={() => (changing = true)}>Make it a kit</Button>
      {/if}
    </div>
  {/if}
  {#if changing}<KitDialog bind:open={changing} {id} {sku} {sheet} />{/if}
  {#if assembling}<AssembleDialog bind:open={assembling} {id} {sku} {sheet} />{/if}
{/if}
