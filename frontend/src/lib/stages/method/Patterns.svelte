<script lang="ts">
  // Definitions only.
</script>

<!-- The fuels' own patterns, told apart without color; used by id from any chart of the page. -->
<svg width="0" height="0" aria-hidden="true" class="sr">
  <defs>
    <pattern id="fuel-gasoline" width="6" height="6" patternUnits="userSpaceOnUse">
      <rect class="gasoline fill-(--gasoline)" width="6" height="6" />
    </pattern>
    <pattern
      id="fuel-propane"
      width="7"
      height="7"
      patternUnits="userSpaceOnUse"
      patternTransform="rotate(45)"
    >
      <rect class="propane fill-(--propane) faint" width="7" height="7" />
      <rect class="propane fill-(--propane)" width="3.4" height="7" />
    </pattern>
    <pattern id="fuel-natural_gas" width="8" height="6" patternUnits="userSpaceOnUse">
      <rect class="fill-(--natural-gas) faint" width="8" height="6" />
      <rect class="fill-(--natural-gas)" width="8" height="2.4" />
    </pattern>
    <pattern id="fuel-biogas" width="7" height="7" patternUnits="userSpaceOnUse">
      <rect class="biogas fill-(--biogas) faint" width="7" height="7" />
      <circle class="biogas fill-(--biogas)" cx="3.5" cy="3.5" r="2" />
    </pattern>
  </defs>
</svg>

<style>
  .faint {
    opacity: 0.25;
  }
</style>
