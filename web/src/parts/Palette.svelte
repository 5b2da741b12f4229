<script lang="ts">
  import { Command } from 'bits-ui';
  import { go } from '../state/address';
  import { setMode } from '../state/mode';
  import { session } from '../state/session.svelte';
  import { viewsFor } from '../views/views';
  import Dialog from './Dialog.svelte';
  import Kbd from './Kbd.svelte';

  interface Props {
    open: boolean;
    onhelp: () => void;
  }
  let { open = $bindable(), onhelp }: Props = $props();

  const groups = $derived([
    {
      name: 'Go to',
      items: viewsFor(session.me?.role).map((v) => ({
        text: v.name,
        keys: `g ${v.key}`,
        run: () => go(v.path)
      }))
    },
    ...(session.me?.role === 'PACKER'
      ? []
      : [
          {
            name: 'Show',
            items: [
              {
                text: 'Orders leaving today',
                keys: '',
                run: () => go('/orders?pile=LEAVING_TODAY&sort=LEAVING')
              },
              { text: 'Orders that are stuck', keys: '', run: () => go('/orders?pile=STUCK') },
              { text: 'Orders waiting for stock', keys: '', run: () => go('/orders?pile=WAITING') },
              { text: 'Listings without a match', keys: '', run: () => go('/channels?unmatched=1') }
            ]
          }
        ]),
    {
      name: 'Look',
      items: [
        { text: 'Light', keys: '', run: () => setMode('light') },
        { text: 'Dark', keys: '', run: () => setMode('dark') },
        { text: 'As the system', keys: '', run: () => setMode('auto') },
        { text: 'Show the keys', keys: '?', run: onhelp }
      ]
    }
  ]);

  function choose(run: () => void) {
    open = false;
    run();
  }
</script>

<Dialog bind:open title="Commands">
  <Command.Root label="Commands" loop>
    <Command.Input data-autofocus placeholder="What next?" class="field w-full" />
    <Command.List class="mt-2 max-h-80 overflow-y-auto">
      <Command.Viewport>
        <Command.Empty class="px-2 py-3 text-soft">No such command</Command.Empty>
        {#each groups as group (group.name)}
          <Command.Group>
            <Command.GroupHeading class="px-2 pt-2 pb-0.5 text-[0.7rem] font-semibold text-soft">
              {group.name}
            </Command.GroupHeading>
            <Command.GroupItems>
              {#each group.items as item (item.text)}
                <Command.Item
                  value={item.text}
                  onSelect={() => choose(item.run)}
                  class="flex h-7 items-center rounded-sm px-2 data-selected:bg-verdigris-wash"
                >
                  <span class="flex-1">{item.text}</span>
                  {#if item.keys}<Kbd keys={item.keys} />{/if}
                </Command.Item>
              {/each}
            </Command.GroupItems>
          </Command.Group>
        {/each}
      </Command.Viewport>
    </Command.List>
  </Command.Root>
</Dialog>
