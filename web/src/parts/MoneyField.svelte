<script lang="ts">
  import type { HTMLInputAttributes } from 'svelte/elements';
  import { decimals, minor, typed } from './money';

  interface Props extends Omit<HTMLInputAttributes, 'value' | 'onchange' | 'oninput'> {
    /** Minor units; null: nothing is typed. */
    value: number | null;
    currency: string;
    /** The most that may be typed, in minor units. */
    most?: number;
    /** Whether each key is told, rather than what was typed in the end. */
    live?: boolean;
    ontype: (minor: number | null) => void;
  }
  let { value, currency, most, live = false, ontype, ...rest }: Props = $props();

  const digits = $derived(decimals(currency));

  const shown = (minor: number | null) => (minor === null ? '' : typed(minor, currency));
  // svelte-ignore state_referenced_locally
  let text = $state(shown(value));
  // svelte-ignore state_referenced_locally
  let told = value;
  // what is being typed is not overwritten by what came of it
  $effect(() => {
    if ((value ?? 0) !== (told ?? 0)) {
      told = value;
      text = shown(value);
    }
  });

  function type(event: Event & { currentTarget: HTMLInputElement }) {
    text = event.currentTarget.value;
    const read = text.trim() ? minor(text, currency) : null;
    if (!live || Number.isNaN(read) || (read !== null && most !== undefined && read > most)) return;
    told = read;
    ontype(read);
  }

  function read(event: Event & { currentTarget: HTMLInputElement }) {
    const field = event.currentTarget;
    const read = field.value.trim() ? minor(field.value, currency) : null;
    const tooMuch = read !== null && most !== undefined && read > most;
    field.setCustomValidity(
      Number.isNaN(read)
        ? `An amount in ${currency}${digits ? `, with at most ${digits} decimals` : ', without decimals'}`
        : tooMuch
          ? `At most ${typed(most!, currency)}`
          : ''
    );
    if (!field.checkValidity()) {
      field.reportValidity();
      return;
    }
    told = read;
    text = shown(read);
    ontype(read);
  }
</script>

<input
  inputmode="decimal"
  autocomplete="off"
  placeholder={typed(0, currency)}
  {...rest}
  value={text}
  oninput={type}
  onchange={read}
/>
