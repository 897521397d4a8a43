<script setup lang="ts">
/**
 * Lines over the picture to frame by: safe areas (SMPTE RP 218: 90 % and 93 % of the frame), thirds, the middle, a
 * level.
 */
defineProps<{ width: number; height: number; show: ReadonlySet<string> }>()
</script>

<template>
  <svg class="pointer-events-none absolute" :width="width" :height="height" aria-hidden="true">
    <g class="fill-none stroke-ivory" stroke-width="1" opacity="0.55">
      <template v-if="show.has('safe')">
        <rect :x="width * 0.035" :y="height * 0.035" :width="width * 0.93" :height="height * 0.93" />
        <rect :x="width * 0.05" :y="height * 0.05" :width="width * 0.9" :height="height * 0.9" stroke-dasharray="4 4" />
      </template>
      <template v-if="show.has('thirds')">
        <line
          v-for="part in [1, 2]"
          :key="`x${part}`"
          :x1="(width * part) / 3"
          :x2="(width * part) / 3"
          y1="0"
          :y2="height"
        />
        <line
          v-for="part in [1, 2]"
          :key="`y${part}`"
          x1="0"
          :x2="width"
          :y1="(height * part) / 3"
          :y2="(height * part) / 3"
        />
      </template>
      <path v-if="show.has('middle')" :d="`M${width / 2 - 14} ${height / 2}h28M${width / 2} ${height / 2 - 14}v28`" />
      <line v-if="show.has('horizon')" x1="0" :x2="width" :y1="height / 2" :y2="height / 2" class="stroke-lamp" />
    </g>
  </svg>
</template>
