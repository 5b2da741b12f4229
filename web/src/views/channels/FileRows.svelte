<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query';
  import { api, get, type Schemas } from '../../api/client';
  import { word } from '../../parts/format';
  import { toasts } from '../../state/toasts.svelte';

  interface Props {
    fileId: number;
    headers: string[];
    rows: Schemas['FileStoreFileRow'][];
    mayCorrect: boolean;
  }
  let { fileId, headers, rows, mayCorrect }: Props = $props();

  const client = useQueryClient();
  type Row = Props['rows'][number];

  async function correct(row: Row, column: number, text: string) {
    if (text === row.cells[column]) return;
    const cells = headers.map((_, i) => (i === column ? text : (row.cells[i] ?? '')));
    try {
      await get(
        api.PUT('/api/intake/files/{id}/rows/{row}', {
          params: { path: { id: fileId, row: row.rowNo } },
          body: { cells }
        })
      );
      await client.invalidateQueries();
    } catch (error) {
      toasts.fail(error);
    }
  }
</script>

<!-- svelte-ignore a11y_no_noninteractive_tabindex (what scrolls must be reached by keyboard) -->
<div class="overflow-x-auto" role="region" aria-label="Rows of the file" tabindex="0">
  <table>
    <thead
      ><tr
        ><th class="py-1 pe-3 text-right">Row</th><th class="pe-3">Stands</th
        >{#each headers as header, i (i)}<th class="pe-3">{header}</th>{/each}</tr
      ></thead
    >
    <tbody>
      {#each rows as row (row.rowNo)}
        <tr class="h-7 border-t border-line">
          <td class="pe-3 text-right text-soft">{row.rowNo}</td>
          <td class={['pe-3 whitespace-nowrap', row.state === 'REFUSED' && 'text-madder']}>
            {#if row.orderId}<a class="hover:underline" href="#/orders/{row.orderId}?pile=ALL">taken</a>
            {:else if row.state === 'REFUSED'}✕ {row.problem}
            {:else}{row.state === 'SAME' ? 'known just so' : word(row.state)}{#if row.problem}<span
                  class="ms-2 text-ochre">! {row.problem}</span
                >{/if}{/if}
          </td>
          {#each headers as header, i (i)}
            <td class={['pe-3 whitespace-nowrap', row.columnNo === i && 'bg-madder-wash']}>
              {#if mayCorrect && row.state === 'REFUSED' && (row.columnNo === i || row.columnNo == null)}
                <input
                  class={['field h-6 w-32', row.columnNo === i && 'border-madder']}
                  aria-label="{header}, row {row.rowNo}"
                  value={row.cells[i] ?? ''}
                  onchange={(event) => void correct(row, i, event.currentTarget.value)}
                />
              {:else}{row.cells[i] ?? ''}{/if}
            </td>
          {/each}
        </tr>
      {:else}
        <tr><td class="py-2 text-soft" colspan={headers.length + 2}>No row is like that.</td></tr>
      {/each}
    </tbody>
  </table>
</div>
