<script lang="ts">
  import { toasts } from '../state/toasts.svelte';
  import Button from './Button.svelte';
</script>

<div class="pointer-events-none fixed bottom-4 left-40 z-50 space-y-2" aria-live="polite">
  {#each toasts.list as toast (toast.id)}
    <div
      class={[
        'card pointer-events-auto flex max-w-md items-center gap-3 border-l-[3px] px-3 py-2 shadow-lg',
        toast.bad ? 'border-l-madder' : 'border-l-verdigris'
      ]}
      role={toast.bad ? 'alert' : 'status'}
    >
      <span class="flex-1">{toast.text}</span>
      {#if toast.undo}
        <Button
          small
          onclick={() => {
            toast.undo?.();
            toasts.close(toast.id);
          }}>Undo</Button
        >
      {/if}
      <button class="text-soft hover:text-ink" aria-label="Close" onclick={() => toasts.close(toast.id)}
        >✕</button
      >
    </div>
  {/each}
</div>
