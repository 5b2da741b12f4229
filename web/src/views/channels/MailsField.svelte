<script lang="ts">
  import { useDoing } from '../../state/doing';
  import type { Channel } from './health';
  import { patchChannel } from './patch';

  let { channel: c }: { channel: Channel } = $props();

  const run = useDoing();
  const set = (mails: { mailsSent?: boolean; mailsWaiting?: boolean }) =>
    void run(patchChannel(c, mails), 'Noted');
</script>

<label class="block"
  ><input
    type="checkbox"
    class="accent-verdigris"
    checked={c.mailsSent}
    onchange={(event) => set({ mailsSent: event.currentTarget.checked })}
  /> what is sent, or ready to be collected</label
>
<label class="mt-1 block"
  ><input
    type="checkbox"
    class="accent-verdigris"
    checked={c.mailsWaiting}
    onchange={(event) => set({ mailsWaiting: event.currentTarget.checked })}
  /> what waits: new days, questions, warnings</label
>
<p class="mt-1.5 text-soft">Leave off what the shop writes itself.</p>
