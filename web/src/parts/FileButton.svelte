<script lang="ts">
  interface Props {
    /** what stands on the button */
    text: string;
    label: string;
    accept: string;
    /** beside a button that is the main thing to do */
    quiet?: boolean;
    onfile: (file: File) => void;
  }
  let { text, label, accept, quiet = false, onfile }: Props = $props();
  let name = $state('');

  function chosen(input: HTMLInputElement) {
    const file = input.files?.[0];
    if (!file) return;
    name = file.name;
    onfile(file);
    // the same file, once it is corrected, can be chosen again
    input.value = '';
  }
</script>

<span class="inline-flex items-baseline gap-2">
  <label
    class={[
      'cursor-pointer rounded-md border px-2 py-0.5 text-xs font-[550] focus-within:outline-2',
      quiet ? 'border-line bg-sheet text-ink hover:bg-sunk' : 'border-verdigris bg-verdigris text-sheet'
    ]}
    >{text}<input
      type="file"
      class="sr-only"
      {accept}
      aria-label={label}
      onchange={(event) => chosen(event.currentTarget)}
    /></label
  >
  {#if name}<span class="text-soft">{name}</span>{/if}
</span>
