<script lang="ts">
  let { keys }: { keys: string } = $props();
</script>

{#each keys.split(' ') as key (key)}<kbd
    class="ms-1 rounded-sm border border-line bg-sunk px-1 font-mono text-[0.68rem] leading-4 text-soft"
    >{key}</kbd
  >{/each}
