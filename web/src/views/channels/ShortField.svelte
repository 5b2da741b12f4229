<!-- What becomes of a channel's orders when goods are short. -->
<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import { useDoing } from '../../state/doing';
  import { session } from '../../state/session.svelte';

  let { id }: { id: number } = $props();

  type Agreed = Schemas['ShortTermsAgreed'];
  const run = useDoing();
  const path = $derived({ params: { path: { id } } });
  const kept = createQuery(() => ({
    queryKey: ['channels', id, 'short'],
    queryFn: () => get(api.GET('/api/channels/{id}/short', path))
  }));
  let changed = $state<Partial<Agreed>>({});
  const t = $derived(kept.data ? { ...kept.data, ...changed } : undefined);
  const dirty = $derived(Object.keys(changed).length > 0);

  async function keep(event: SubmitEvent) {
    event.preventDefault();
    if (!t || !kept.data) return;
    const before = kept.data;
    await run(get(api.PUT('/api/channels/{id}/short', { ...path, body: t })), 'Agreed', () => {
      void run(get(api.PUT('/api/channels/{id}/short', { ...path, body: before })), 'As it was');
    });
    changed = {};
  }
  const LIST = 'field mt-1 block h-8 w-80 py-0 text-ink';
</script>

{#if t}
  <form class="space-y-3" onsubmit={keep}>
    <fieldset disabled={!session.mayChange} class="space-y-3">
      <label class="block text-soft"
        >What is short<select
          class={LIST}
          value={String(t.mayWait)}
          onchange={(e) => (changed.mayWait = e.currentTarget.value === 'true')}
          ><option value="true">is waited for, in a queue</option><option value="false"
            >is not waited for</option
          ></select
        ></label
      >
      <label class="block text-soft"
        >What may not wait<select
          class={LIST}
          value={t.ifNot}
          onchange={(e) => (changed.ifNot = e.currentTarget.value as Agreed['ifNot'])}
          ><option value="SNAG">is put before a person</option><option value="CANCEL"
            >is cancelled at once</option
          ><option value="REPLACE">is replaced by something else, if it can be</option></select
        ></label
      >
      <label class="block text-soft"
        >Meanwhile what is there<select
          class={LIST}
          value={String(t.inPart)}
          onchange={(e) =>
            (changed.inPart = e.currentTarget.value === 'null' ? null : e.currentTarget.value === 'true')}
          ><option value="null">goes as the ladder says</option><option value="true">is sent</option><option
            value="false">waits until the order is whole</option
          ></select
        ></label
      >
      <label class="flex items-center gap-2"
        ><input
          type="checkbox"
          class="size-3.5 rounded-sm border-faint"
          checked={t.mayReplace}
          onchange={(e) => (changed.mayReplace = e.currentTarget.checked)}
        /> buyers may be sent something else, at the price they ordered for</label
      >
      <div class="flex gap-3">
        <label class="text-soft"
          >Cancelled after<input
            class="field mt-1 block h-8 w-24 text-ink"
            type="number"
            min="1"
            max="365"
            placeholder="never"
            value={t.cancelAfter ?? ''}
            onchange={(e) => (changed.cancelAfter = Number(e.currentTarget.value) || null)}
          /></label
        >
        <label class="text-soft"
          >told before that<input
            class="field mt-1 block h-8 w-24 text-ink"
            type="number"
            min="0"
            max="90"
            value={t.warnBefore}
            onchange={(e) => (changed.warnBefore = Number(e.currentTarget.value))}
          /></label
        ><span class="self-end pb-1.5 text-soft">days</span>
      </div>
      <label class="block text-soft"
        >What an order on hold holds is free after<input
          class="field mt-1 block h-8 w-24 text-ink"
          type="number"
          min="1"
          max="8760"
          placeholder="never"
          aria-label="Hours on hold after which what it holds is free"
          value={t.freeHeld ?? ''}
          onchange={(e) => (changed.freeHeld = Number(e.currentTarget.value) || null)}
        />hours</label
      >
      <div class="flex gap-3">
        <label class="text-soft"
          >Buyers answer within<input
            class="field mt-1 block h-8 w-24 text-ink"
            type="number"
            min="1"
            max="90"
            value={t.answerWithin}
            onchange={(e) => (changed.answerWithin = Number(e.currentTarget.value))}
          /></label
        >
        <label class="text-soft"
          >days; silence means<select
            class="field mt-1 block h-8 w-40 py-0 text-ink"
            value={t.noAnswer}
            onchange={(e) => (changed.noAnswer = e.currentTarget.value as Agreed['noAnswer'])}
            ><option value="WAIT">they wait</option><option value="CANCEL">they cancel</option></select
          ></label
        >
      </div>
    </fieldset>
    {#if dirty}<p class="flex gap-2">
        <Button main small type="submit">Keep</Button>
        <Button small onclick={() => (changed = {})}>Leave it</Button>
      </p>{/if}
  </form>
{/if}
