<script lang="ts"></script>

<svg width="22" height="18" aria-hidden="true">
  <path
    d="M1 9H8C12 9 11 3 15 3H21M8 9C12 9 11 15 15 15H18"
    fill="none"
    stroke="var(--verdigris)"
    stroke-width="2.4"
  />
</svg>
