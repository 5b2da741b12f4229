<script lang="ts">
  import { param, setParams } from '../state/address';

  interface Props {
    /** What is found by it, for those who don't see it. */
    label: string;
    placeholder: string;
  }
  let { label, placeholder }: Props = $props();

  let timer: ReturnType<typeof setTimeout> | undefined;
</script>

<input
  class="field h-7 w-56"
  {placeholder}
  aria-label={label}
  value={param('search')}
  oninput={(event) => {
    const text = event.currentTarget.value;
    clearTimeout(timer);
    timer = setTimeout(() => setParams({ search: text }), 150);
  }}
/>
