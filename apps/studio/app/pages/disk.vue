<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import type { Freeable, ProjectUse } from '@dusk/store'
import { PARTS, stretches, type DiskUse } from '~/features/disk/diskUse'
import { useLive } from '~/features/project/useLive'
import PageHead from '~/features/ui/PageHead.vue'
import { api } from '~/features/ui/api'
import { useNotices } from '~/features/ui/noticesStore'
import { formatBytes } from '~/features/ui/sizes'

const notices = useNotices()
const use = ref<DiskUse | null>(null)
/** What is being freed: kinds, and ids of projects. */
const freeing = ref<ReadonlySet<string>>(new Set())
/** A project that is asked about before it goes for good. */
const going = ref<ProjectUse | null>(null)

const taken = computed(() => Object.values(use.value?.parts ?? {}).reduce((sum, bytes) => sum + bytes, 0))
const bar = computed(() => {
  if (!use.value) return []
  const { parts, free } = use.value
  const widths = stretches(
    PARTS.map(({ kind }) => parts[kind]),
    taken.value + free,
  )
  return PARTS.map((part, i) => ({ ...part, width: widths[i]! })).filter(({ width }) => width > 0)
})
const away = computed(() => (use.value?.projects ?? []).filter(({ deletedAt }) => deletedAt !== null))
const there = computed(() => (use.value?.projects ?? []).filter(({ deletedAt }) => deletedAt === null))

async function load(): Promise<void> {
  try {
    use.value = await api<DiskUse>('/disk')
  } catch (error) {
    notices.warn((error as Error).message)
  }
}

async function free(what: Freeable, projectId?: string): Promise<void> {
  const key = projectId ?? what
  freeing.value = new Set([...freeing.value, key])
  try {
    await api('/disk/free', 'POST', { what, projectId })
  } catch (error) {
    notices.warn((error as Error).message)
    freed(what)
  }
}

function freed(what: Freeable): void {
  freeing.value = new Set(
    [...freeing.value].filter((key) => (what === 'project') === (key === 'chunks' || key === 'unused')),
  )
}

async function bringBack(project: ProjectUse): Promise<void> {
  await api(`/projects/${project.id}/restore`, 'POST').catch((error: Error) => notices.warn(error.message))
  await load()
}

function removeForGood(): void {
  if (going.value) void free('project', going.value.id)
  going.value = null
}

useLive(
  null,
  (event) => {
    if (event.kind !== 'disk') return
    freed(event.what)
    if (event.bytes === null) notices.warn('Nothing could be freed while a worker tidied up. Try again in a minute.')
    else if (event.bytes > 0) notices.say(`${formatBytes(event.bytes)} were freed.`)
    else
      notices.say(
        event.what === 'project'
          ? 'It is gone. All of its footage is used by other projects.'
          : 'There was nothing to free.',
      )
    void load()
  },
  load,
)
onMounted(load)
</script>

<template>
  <main class="h-full overflow-auto">
    <div class="mx-auto max-w-4xl px-8 py-8">
      <PageHead title="Room on disk" />
      <template v-if="use">
        <p>
          <span class="font-mono">{{ formatBytes(taken) }}</span> are taken by Dusk Reel,
          <span class="font-mono">{{ formatBytes(use.free) }}</span> are free.
        </p>
        <div class="mt-3 flex h-3 gap-px overflow-hidden rounded-md bg-raised" aria-hidden="true">
          <span
            v-for="part in bar"
            :key="part.kind"
            class="h-full"
            :class="part.colour"
            :style="{ width: `${part.width}%` }"
          />
        </div>
        <ul class="mt-6 divide-y divide-line border-y border-line" aria-label="What takes room">
          <li v-for="part in PARTS" :key="part.kind" class="flex min-h-13 items-center gap-4 py-2">
            <span class="size-2.5 shrink-0 rounded-full" :class="part.colour" aria-hidden="true" />
            <span class="min-w-0 grow">
              <span class="block">{{ part.name }}</span>
              <span class="block text-muted">{{ part.words }}</span>
            </span>
            <span class="shrink-0 font-mono">{{ formatBytes(use.parts[part.kind]) }}</span>
            <span class="flex w-36 shrink-0 justify-end">
              <button
                v-if="part.kind === 'chunks'"
                class="key key-line"
                :disabled="use.parts.chunks === 0 || freeing.has('chunks')"
                @click="free('chunks')"
              >
                {{ freeing.has('chunks') ? 'Freeing' : 'Free them' }}
              </button>
              <button
                v-else-if="part.kind === 'originals'"
                class="key key-line"
                title="Removes footage that no project uses and no undo brings back"
                :disabled="freeing.has('unused')"
                @click="free('unused')"
              >
                {{ freeing.has('unused') ? 'Freeing' : 'Free the unused' }}
              </button>
              <NuxtLink v-else-if="part.kind === 'renders'" to="/renders" class="key key-line">Renders</NuxtLink>
            </span>
          </li>
        </ul>
        <section v-if="away.length > 0" class="mt-8">
          <h2 class="font-display text-lg font-semibold">Projects that were put away</h2>
          <p class="text-muted">They go for good a week after they were deleted.</p>
          <ul class="mt-2 divide-y divide-line border-y border-line" aria-label="Projects that were put away">
            <li v-for="project in away" :key="project.id" class="flex min-h-11 items-center gap-3 py-1.5">
              <span class="min-w-0 grow truncate">{{ project.name }}</span>
              <span class="shrink-0 font-mono" title="What it shares with no other project">{{
                formatBytes(project.own)
              }}</span>
              <button class="key" @click="bringBack(project)">Bring it back</button>
              <button class="key key-line" :disabled="freeing.has(project.id)" @click="going = project">
                {{ freeing.has(project.id) ? 'Removing' : 'Remove for good' }}
              </button>
            </li>
          </ul>
        </section>
        <section class="mt-8">
          <h2 class="font-display text-lg font-semibold">Projects</h2>
          <p v-if="there.length === 0" class="text-muted">There is none.</p>
          <table v-else class="mt-2 w-full border-y border-line">
            <thead class="text-left text-muted">
              <tr>
                <th class="py-1.5 font-normal">Project</th>
                <th class="py-1.5 text-right font-normal">Footage</th>
                <th class="py-1.5 text-right font-normal">Previews</th>
                <th class="py-1.5 text-right font-normal">Shared with no other</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="project in there" :key="project.id" class="border-t border-line">
                <td class="py-1.5">
                  <NuxtLink :to="`/projects/${project.id}`" class="hover:underline">{{ project.name }}</NuxtLink>
                </td>
                <td class="py-1.5 text-right font-mono">{{ formatBytes(project.sources) }}</td>
                <td class="py-1.5 text-right font-mono">{{ formatBytes(project.previews) }}</td>
                <td class="py-1.5 text-right font-mono">{{ formatBytes(project.own) }}</td>
              </tr>
            </tbody>
          </table>
        </section>
      </template>
      <p v-else class="mt-24 text-center text-muted">Measuring</p>
    </div>
    <DialogFrame :open="going !== null" title="Remove for good" @close="going = null">
      <p class="mt-3">
        {{ going?.name }} goes with its edits, its renders and the footage that no other project uses,
        {{ formatBytes(going?.own ?? 0) }}. It can’t be brought back after that.
      </p>
      <div class="mt-6 flex justify-end gap-2">
        <button class="key" @click="going = null">Keep it</button>
        <button class="key key-ember px-3" @click="removeForGood">Remove it</button>
      </div>
    </DialogFrame>
  </main>
</template>
