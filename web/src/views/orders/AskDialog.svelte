<script lang="ts">
  import Button from '../../parts/Button.svelte';
  import Dialog from '../../parts/Dialog.svelte';

  interface Props {
    title: string;
    button: string;
    longest: number;
    onanswer: (text: string) => void;
    onclose: () => void;
  }
  let { title, button, longest, onanswer, onclose }: Props = $props();

  let open = $state(true);
  let text = $state('');
  $effect(() => {
    if (!open) onclose();
  });

  function submit(event: SubmitEvent) {
    event.preventDefault();
    onanswer(text);
  }
</script>

<Dialog bind:open {title}>
  <form class="space-y-3" onsubmit={submit}>
    <textarea
      class="field block w-full"
      rows="3"
      bind:value={text}
      aria-label={title}
      required
      maxlength={longest}
      data-autofocus></textarea>
    <Button main type="submit">{button}</Button>
  </form>
</Dialog>
