<script lang="ts">
  import { Button } from 'flowbite-svelte';
  import type { Snippet } from 'svelte';

  interface Props {
    main?: boolean;
    small?: boolean;
    key?: string;
    disabled?: boolean;
    title?: string;
    'aria-label'?: string;
    'aria-expanded'?: boolean;
    type?: 'button' | 'submit';
    href?: string;
    target?: string;
    onclick?: (event: MouseEvent) => void;
    children: Snippet;
  }
  let { main = false, small = false, key, type = 'button', children, ...rest }: Props = $props();

  const look = $derived([
    'inline-flex items-center gap-1.5 rounded-md border font-[550] shadow-none focus:ring-0 whitespace-nowrap',
    small ? 'px-2 py-0.5 text-xs' : 'px-3 py-1 text-sm',
    main
      ? 'border-verdigris bg-verdigris text-sheet hover:bg-primary-700 hover:text-sheet focus-within:text-sheet focus:text-sheet dark:bg-verdigris dark:text-sheet dark:hover:bg-primary-300 dark:hover:text-sheet dark:focus-within:text-sheet'
      : 'border-line bg-sheet text-ink hover:bg-sunk hover:text-ink focus-within:text-ink focus:text-ink dark:bg-sheet dark:text-ink dark:hover:bg-sunk dark:hover:text-ink dark:focus-within:text-ink'
  ]);
</script>

<Button {...rest} {type} color="alternative" class={look.join(' ')}>
  {@render children()}
  {#if key}<kbd class="rounded-sm border border-current px-1 font-mono text-[0.68rem] leading-4">{key}</kbd
    >{/if}
</Button>
