<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, get } from '../../api/client';
  import ConnectDefaults from './ConnectDefaults.svelte';
  import ConnectOrders from './ConnectOrders.svelte';
  import type { Channel } from './health';
  import ConnectAccess from './ConnectAccess.svelte';
  import MailsField from './MailsField.svelte';
  import NameField from './NameField.svelte';
  import ShortField from './ShortField.svelte';
  import TimeField from '../routing/TimeField.svelte';

  let { channel: c }: { channel: Channel } = $props();

  const kinds = createQuery(() => ({
    queryKey: ['connecting', 'kinds'],
    queryFn: () => get(api.GET('/api/connecting/kinds'))
  }));
  const profile = $derived(kinds.data?.find((k) => k.kind === c.kind)?.profile);
</script>

<p class="mb-3 text-soft">What is changed here holds for orders that come from now on.</p>
<div class="flex flex-wrap gap-x-12 gap-y-6">
  <section>
    <h3 class="mb-2 font-[650]">How its orders are taken</h3>
    <ConnectDefaults channel={c} />
  </section>
  {#if profile && c.baseUrl}
    <section>
      <h3 class="mb-2 font-[650]">Which orders are taken</h3>
      <ConnectOrders channel={c} {profile} />
    </section>
  {/if}
  <section>
    <h3 class="mb-2 font-[650]">When they are routed</h3>
    <TimeField channel={c.code} name={c.name} />
  </section>
  <section>
    <h3 class="mb-2 font-[650]">When goods are short</h3>
    <ShortField id={c.id} />
  </section>
  <section>
    <h3 class="mb-2 font-[650]">What its buyers are mailed</h3>
    <MailsField channel={c} />
  </section>
  {#if profile && c.baseUrl}
    <section>
      <h3 class="mb-2 font-[650]">Where it is, and how it knows us</h3>
      <ConnectAccess channel={c} {profile} />
    </section>
  {/if}
  <section>
    <h3 class="mb-2 font-[650]">What it is called</h3>
    <NameField channel={c} />
  </section>
</div>
