<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query';
  import { api, get, Problem } from '../api/client';
  import { toasts } from '../state/toasts.svelte';
  import Button from './Button.svelte';
  import Dialog from './Dialog.svelte';

  interface Props {
    open: boolean;
    refusedId: number;
  }
  let { open = $bindable(), refusedId }: Props = $props();

  const client = useQueryClient();
  let body = $state('');
  let problem = $state('');
  const message = createQuery(() => ({
    queryKey: ['refused', refusedId],
    queryFn: () => get(api.GET('/api/intake/refused/{id}', { params: { path: { id: refusedId } } })),
    enabled: open
  }));
  $effect(() => {
    if (!message.data) return;
    body = readable(message.data.body);
    problem = `${message.data.card.place} ${message.data.card.problem}`.trim();
  });

  function readable(text: string): string {
    try {
      return JSON.stringify(JSON.parse(text), null, 2);
    } catch {
      return text;
    }
  }

  async function finish(what: Promise<unknown>, done: string) {
    try {
      await what;
      open = false;
      toasts.say(done);
      await client.invalidateQueries();
    } catch (error) {
      problem = error instanceof Problem && error.field ? `${error.field} ${error.message}` : String(error);
    }
  }
  const correct = (event: SubmitEvent) => {
    event.preventDefault();
    const params = { path: { id: refusedId } };
    void finish(get(api.POST('/api/intake/refused/{id}/correct', { params, body: { body } })), 'Taken in');
  };
  const discard = () => {
    const params = { path: { id: refusedId } };
    void finish(get(api.POST('/api/intake/refused/{id}/discard', { params })), 'Discarded; its text is kept');
  };
</script>

<Dialog bind:open title="This message could not be read" wide>
  <form onsubmit={correct} class="space-y-3">
    <p class="text-madder" role="alert">{problem}</p>
    <textarea
      class="field block h-80 w-full font-mono text-xs"
      bind:value={body}
      aria-label="The message"
      spellcheck="false"></textarea>
    <div class="flex gap-2">
      <Button main type="submit">Take it in</Button>
      <Button onclick={discard}>Discard</Button>
    </div>
  </form>
</Dialog>
