<script lang="ts">
  import { Modal } from 'flowbite-svelte';
  import type { Snippet } from 'svelte';
  import { focusBack } from './focusBack';

  interface Props {
    open: boolean;
    title: string;
    wide?: boolean;
    children: Snippet;
  }
  let { open = $bindable(), title, wide = false, children }: Props = $props();

  /** Whoever is quick closes it before the browser has said that it is open: that must not open it again. */
  function staysClosed(dialog: Element) {
    const late = (event: Event) => {
      if (!open) event.stopImmediatePropagation();
    };
    dialog.addEventListener('toggle', late, true);
    return () => dialog.removeEventListener('toggle', late, true);
  }
</script>

<Modal
  bind:open
  {title}
  size={wide ? 'lg' : 'sm'}
  outsideclose
  class="card text-left text-ink shadow-xl backdrop:bg-black/30 dark:bg-sheet"
  classes={{
    header: 'px-4 py-2.5 md:px-4 md:py-2.5 text-base font-[650]',
    body: 'px-4 py-3 md:px-4 md:py-3 space-y-3'
  }}
  {@attach focusBack}
  {@attach staysClosed}
>
  {@render children()}
</Modal>
