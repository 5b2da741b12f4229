<script lang="ts">
  import type { HTMLInputAttributes } from 'svelte/elements';
  import { decimals, minor, typed } from './money';

  interface Props extends Omit<HTMLInputAttributes, 'value' | 'onchange' | 'oninput'> {
    /** Minor units; null: nothing is typed. */
    value: number | null;
    currency: string;
    /** The most that may be typed, in minor units. */
    most?: number;
    ontype: (minor: number | null) => void;
  }
  let { value, currency, most, ontype, ...rest }: Props = $props();

  const digits = $derived(decimals(currency));

  function read(event: Event & { currentTarget: HTMLInputElement }) {
    const field = event.currentTarget;
    const text = field.value.trim();
    const read = text ? minor(text, currency) : null;
    const tooMuch = read !== null && most !== undefined && read > most;
    field.setCustomValidity(
      Number.isNaN(read)
        ? `An amount in ${currency}${digits ? `, with at most ${digits} decimals` : ', without decimals'}`
        : tooMuch
          ? `At most ${typed(most!, currency)}`
          : ''
    );
    if (field.checkValidity()) ontype(read);
    else field.reportValidity();
  }
</script>

<input
  inputmode="decimal"
  autocomplete="off"
  placeholder={typed(0, currency)}
  {...rest}
  value={value === null ? '' : typed(value, currency)}
  onchange={read}
/>
