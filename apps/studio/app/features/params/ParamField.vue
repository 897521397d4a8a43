<script setup lang="ts">
import { computed } from 'vue'
import {
  changeAt,
  EASES,
  easeKey,
  isAnimated,
  keyAt,
  paramAt,
  putKey,
  removeKey,
  valueAt,
  type Animated,
  type Param,
  type Params,
  type Point,
  type Value,
} from '@dusk/timeline'

/** One setting, shown by what it is: number, point, colour, choice, switch or text, with its keyframes. */
const props = defineProps<{
  param: Param
  values: Params
  /** Clip time of the playhead; `null` where nothing can have keyframes. */
  time: number | null
}>()
const emit = defineEmits<{
  change: [value: Animated | null]
  /** What is under the pointer while it is dragged. */
  try: [value: Animated]
  go: [clipTime: number]
}>()

const at = computed(() => props.time ?? 0)
const set = computed<Animated>(() => props.values[props.param.key] ?? props.param.default)
const shown = computed(() => paramAt(props.param, props.values, at.value))
const keyable = computed(() => props.time !== null && !props.param.fixed)
const key = computed(() => (keyable.value ? keyAt(set.value, at.value) : null))

function give(value: Value): void {
  const next = keyable.value ? changeAt(set.value, at.value, value) : value
  const same = !isAnimated(next) && String(next) === String(props.param.default)
  emit('change', same ? null : next)
}
/** A value while it is dragged: shown, not kept. */
const attempt = (value: Value) => emit('try', keyable.value ? changeAt(set.value, at.value, value) : value)
function givePart(index: 0 | 1, value: number): void {
  const [x, y] = shown.value as Point
  give(index === 0 ? [value, y] : [x, value])
}
function toggleKey(): void {
  emit('change', key.value ? removeKey(set.value, at.value) : putKey(set.value, at.value, valueAt(set.value, at.value)))
}
</script>

<template>
  <div>
    <div class="flex items-center gap-1" :title="param.hint">
      <NumberField
        v-if="param.kind === 'number'"
        class="min-w-0 flex-1"
        :label="param.label"
        :unit="param.unit"
        :value="shown as number"
        :min="param.min"
        :max="param.max"
        :step="param.step ?? 1"
        :digits="param.digits ?? 0"
        :initial="param.default"
        @change="give"
        @try="attempt"
      />
      <CurveField
        v-else-if="param.kind === 'curve'"
        :param="param"
        :value="shown as string"
        @change="give"
        @try="attempt"
      />
      <FileField v-else-if="param.kind === 'file'" :param="param" :value="shown as string" @change="give" />
      <WheelField
        v-else-if="param.kind === 'point' && param.wheel"
        :param="param"
        :value="shown as Point"
        @change="give"
        @try="attempt"
      />
      <div v-else-if="param.kind === 'point'" class="min-w-0 flex-1 space-y-1">
        <NumberField
          v-for="side in [0, 1] as const"
          :key="side"
          :label="`${param.label} ${side ? '↓' : '→'}`"
          :unit="param.unit"
          :value="(shown as Point)[side]"
          :min="param.min"
          :max="param.max"
          :digits="param.digits ?? 0"
          :initial="param.default[side]"
          @change="givePart(side, $event)"
        />
      </div>
      <ChoiceField
        v-else-if="param.kind === 'choice'"
        class="min-w-0 flex-1"
        :label="param.label"
        :value="shown as string"
        :options="param.options"
        @change="give"
      />
      <label
        v-else-if="param.kind === 'colour'"
        class="grid min-w-0 flex-1 grid-cols-[84px_minmax(0,1fr)] items-center gap-2"
      >
        <span class="truncate text-muted">{{ param.label }}</span>
        <input
          type="color"
          class="field p-1"
          :value="shown"
          :aria-label="param.label"
          @change="give(($event.target as HTMLInputElement).value)"
        />
      </label>
      <label v-else-if="param.kind === 'switch'" class="flex h-7 min-w-0 flex-1 items-center gap-2">
        <input
          type="checkbox"
          class="accent-ember"
          :checked="shown as boolean"
          @change="give(($event.target as HTMLInputElement).checked)"
        />
        <span class="truncate text-muted">{{ param.label }}</span>
      </label>
      <label v-else class="grid min-w-0 flex-1 grid-cols-[84px_minmax(0,1fr)] items-center gap-2">
        <span class="truncate text-muted">{{ param.label }}</span>
        <input
          class="field"
          :value="shown"
          :maxlength="param.maxLength"
          :aria-label="param.label"
          @change="give(($event.target as HTMLInputElement).value)"
          @keydown.stop
        />
      </label>
      <KeyButtons
        v-if="keyable"
        :label="param.label"
        :value="set"
        :time="at"
        @toggle="toggleKey"
        @go="emit('go', $event)"
      />
    </div>
    <ChoiceField
      v-if="key && isAnimated(set) && set.keys.at(-1) !== key"
      class="mt-1 pr-7"
      label="… from here"
      :value="typeof key.ease === 'string' ? key.ease : 'both'"
      :options="EASES"
      @change="emit('change', easeKey(set, at, $event))"
    />
  </div>
</template>
