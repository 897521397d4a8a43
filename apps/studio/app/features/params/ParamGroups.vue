<script setup lang="ts">
import { Disclosure, DisclosureButton, DisclosurePanel } from '@headlessui/vue'
import ChevronRight from '@lucide/vue/dist/esm/icons/chevron-right.mjs'
import { computed } from 'vue'
import { isAnimated, type Animated, type Param, type Params } from '@dusk/timeline'

/** A list of settings in groups that fold. Groups in which something was changed are marked, and reset as a whole. */
const props = defineProps<{
  params: readonly Param[]
  values: Params
  time: number | null
  /** Groups that are open to begin with. */
  open?: readonly string[]
}>()
const emit = defineEmits<{
  change: [patch: Record<string, Animated | null>]
  try: [patch: Record<string, Animated>]
  go: [clipTime: number]
}>()

const groups = computed(() => {
  const map = new Map<string, Param[]>()
  const set = (key: string) => {
    const value = props.values[key]
    return value !== undefined && value !== props.params.find((param) => param.key === key)?.default && value !== 'none'
  }
  for (const param of props.params.filter(({ key, needs }) => !needs || set(needs) || props.values[key] !== undefined))
    map.set(param.group ?? '', [...(map.get(param.group ?? '') ?? []), param])
  return [...map].map(([name, list]) => ({
    name,
    list,
    changed: list.some((param) => props.values[param.key] !== undefined),
    animated: list.some((param) => isAnimated(props.values[param.key] ?? 0)),
  }))
})
const reset = (list: readonly Param[]) => emit('change', Object.fromEntries(list.map((param) => [param.key, null])))
</script>

<template>
  <div>
    <template v-for="group in groups" :key="group.name">
      <div v-if="!group.name" class="space-y-1.5 py-3">
        <ParamField
          v-for="param in group.list"
          :key="param.key"
          :param="param"
          :values="values"
          :time="time"
          @change="emit('change', { [param.key]: $event })"
          @try="emit('try', { [param.key]: $event })"
          @go="emit('go', $event)"
        />
      </div>
      <Disclosure
        v-else
        v-slot="{ open: shown }"
        as="section"
        class="border-t border-line py-1.5"
        :class="!group.changed && !open?.includes(group.name) && 'calm:hidden'"
        :default-open="open?.includes(group.name)"
      >
        <div class="flex items-center">
          <DisclosureButton class="flex h-7 min-w-0 flex-1 items-center gap-1 text-left font-semibold">
            <ChevronRight :size="14" class="text-muted" :class="shown && 'rotate-90'" /> {{ group.name }}
            <span
              v-if="group.changed"
              class="ml-1 size-1.5 rounded-full"
              :class="group.animated ? 'bg-lamp' : 'bg-dusk'"
            />
          </DisclosureButton>
          <button
            v-if="group.changed"
            class="key h-6 px-1.5 text-sm text-muted"
            :aria-label="`Reset ${group.name}`"
            @click="reset(group.list)"
          >
            reset
          </button>
        </div>
        <DisclosurePanel class="space-y-1.5 pt-1 pb-2">
          <ParamField
            v-for="param in group.list"
            :key="param.key"
            :param="param"
            :values="values"
            :time="time"
            @change="emit('change', { [param.key]: $event })"
            @try="emit('try', { [param.key]: $event })"
            @go="emit('go', $event)"
          />
        </DisclosurePanel>
      </Disclosure>
    </template>
  </div>
</template>
