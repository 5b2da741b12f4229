<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query';
  import { api, get, upload, type Schemas } from '../../api/client';
  import FileButton from '../../parts/FileButton.svelte';
  import { ago, count, fullMoment, plural, word } from '../../parts/format';
  import { param, setParams } from '../../state/address';
  import { session } from '../../state/session.svelte';
  import { toasts } from '../../state/toasts.svelte';
  import FileSheet from './FileSheet.svelte';

  let { channelId }: { channelId: number } = $props();

  const client = useQueryClient();
  const files = createQuery(() => ({
    queryKey: ['files', channelId],
    queryFn: () => get(api.GET('/api/intake/files', { params: { query: { channel: channelId } } }))
  }));
  const opened = $derived(Number(param('file')) || undefined);
  let busy = $state('');

  async function bring(file: File) {
    busy = `Reading ${file.name}…`;
    try {
      const card = await upload<Schemas['FilesFileCard']>(
        `/api/intake/files?channel=${channelId}&name=${encodeURIComponent(file.name)}`,
        file
      );
      await client.invalidateQueries();
      setParams({ file: String(card.file.id) });
    } catch (error) {
      toasts.fail(error);
    } finally {
      busy = '';
    }
  }
</script>

{#if opened}
  <FileSheet id={opened} onclose={() => setParams({ file: '' })} />
{:else}
  <div class="mb-2 flex items-center gap-3">
    {#if session.mayChange}
      <FileButton
        text="Bring a file…"
        label="Bring a file…"
        accept=".csv,.tsv,.txt,.xlsx"
        onfile={(file) => void bring(file)}
      />
    {/if}
    <span class="text-soft"
      >CSV or XLSX, one row per line of an order, in any layout. An empty one to fill in:
      <a class="text-verdigris hover:underline" href="/api/intake/files/template?format=csv">CSV</a>,
      <a class="text-verdigris hover:underline" href="/api/intake/files/template?format=xlsx">XLSX</a></span
    >
    <span class="text-soft" role="status">{busy}</span>
  </div>
  <table class="w-full">
    <thead
      ><tr
        ><th class="py-1 pe-2">File</th><th class="pe-2">Brought</th><th class="pe-2">Stands</th><th
          class="pe-2 text-right">Rows</th
        ><th class="pe-2 text-right">Taken</th><th class="pe-2 text-right">Refused</th><th></th></tr
      ></thead
    >
    <tbody>
      {#each files.data ?? [] as f (f.file.id)}
        <tr class="h-[30px] border-t border-line">
          <td class="pe-2"
            ><button class="font-[550] hover:underline" onclick={() => setParams({ file: String(f.file.id) })}
              >{f.file.name}</button
            ></td
          >
          <td class="pe-2 text-soft" title={fullMoment(f.file.uploadedAt)}
            >{ago(f.file.uploadedAt)} by {f.file.uploadedBy}</td
          >
          <td class="pe-2">{f.file.state === 'UPLOADED' ? 'columns to be named' : word(f.file.state)}</td>
          <td class="pe-2 text-right">{count(f.file.rows)}</td>
          <td class="pe-2 text-right">{count(f.counts.TAKEN ?? 0)}</td>
          <td class={['pe-2 text-right', f.counts.REFUSED && 'text-madder']}
            >{count(f.counts.REFUSED ?? 0)}</td
          >
          <td class="text-right text-soft"
            >{f.counts.NEW || f.counts.CHANGED
              ? `${plural((f.counts.NEW ?? 0) + (f.counts.CHANGED ?? 0), 'row')} to take`
              : ''}</td
          >
        </tr>
      {:else}
        <tr
          ><td colspan="7" class="py-2 text-soft"
            >{files.isPending
              ? 'Reading…'
              : 'No file was brought yet. Every row is shown before anything of a file is taken.'}</td
          ></tr
        >
      {/each}
    </tbody>
  </table>
{/if}
