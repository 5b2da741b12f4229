<script lang="ts">
  import { api, get } from '../../api/client';
  import { useDoing } from '../../state/doing';
  import type { Channel } from './health';

  let { channel: c }: { channel: Channel } = $props();

  const run = useDoing();
  const set = (mails: { mailsSent?: boolean; mailsWaiting?: boolean }) =>
    void run(
      get(
        api.PATCH('/api/channels/{id}', {
          params: { path: { id: c.id } },
          body: {
            mailsSent: mails.mailsSent ?? null,
            mailsWaiting: mails.mailsWaiting ?? null,
            writesBack: null,
            feeds: null,
            paused: null,
            intervalSeconds: null,
            version: c.version
          }
        })
      ),
      'Noted'
    );
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
