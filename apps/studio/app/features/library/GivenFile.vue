<script setup lang="ts">
import { computed, watch } from 'vue'
import { useProject } from '~/features/project/projectStore'
import { refusalOf, tried } from '~/features/project/tried'
import { api } from '~/features/ui/api'
import { useNotices } from '~/features/ui/noticesStore'
import { windowId } from '~/features/ui/windowId'
import { lossesOf } from './losses'

/**
 * A file that was given for a source and is another one than that had came in as a source of its own. It takes the
 * other's place at once where nothing is lost by that; else what would be lost is said first.
 */
const project = useProject()
const notices = useNotices()
/** Losses that are shown; the rest is counted. */
const SHOWN = 8

const offer = computed(() => {
  const { document, sources } = project
  if (!document) return null
  for (const [id, { givenFor }] of Object.entries(sources)) {
    // Another window gave it, and that one asks.
    if (!givenFor || givenFor.windowId !== windowId()) continue
    const [old, next] = [document.assets[givenFor.assetId], document.assets[id]]
    if (!old || !next) continue
    const command = { type: 'replaceSource' as const, assetId: old.id, withId: id }
    const after = tried(document, command)?.project
    const refusal = after ? null : refusalOf(document, command)
    return { old, next, command, refusal, losses: after ? lossesOf(document, after) : [] }
  }
  return null
})
/** What has to be asked; the rest is done without a word before. */
const asked = computed(() => (offer.value && offer.value.losses.length > 0 ? offer.value : null))

/** It is decided: the offer ends here and on the server, whether the page lives on or not. */
function settle(id: string): void {
  project.sources = { ...project.sources, [id]: { ...project.sources[id]!, givenFor: null } }
  api(`/assets/${id}`, 'DELETE').catch((error: Error) => notices.warn(error.message))
}

function use({ old, next, command, losses }: NonNullable<typeof offer.value>): void {
  const done = project.perform(command)
  settle(next.id)
  if (!done) return
  const step = project.lastStep()
  const text =
    losses.length > 0 ? `${next.name} is in the place of ${old.name}.` : `${old.name} plays ${next.name} now.`
  notices.say(text, 'plain', { label: 'Undo', run: () => project.undoStep(step) })
}

function keepBoth({ next }: NonNullable<typeof offer.value>): void {
  settle(next.id)
  notices.say(`${next.name} is a source of its own.`)
}

watch(
  offer,
  (found) => {
    if (!found || found.losses.length > 0) return
    if (!found.refusal) return use(found)
    notices.warn(`${found.refusal} It is in the library as a source of its own.`)
    settle(found.next.id)
  },
  { immediate: true },
)
</script>

<template>
  <DialogFrame
    v-if="asked"
    open
    :title="`${asked.next.name} holds less than ${asked.old.name}`"
    @close="keepBoth(asked)"
  >
    <p class="mt-2 text-muted">In its place, this would be missing from the film:</p>
    <ul class="mt-2 list-disc space-y-1 pl-5">
      <li v-for="loss in asked.losses.slice(0, SHOWN)" :key="loss.clipId + loss.words">{{ loss.words }}</li>
      <li v-if="asked.losses.length > SHOWN">and {{ asked.losses.length - SHOWN }} more</li>
    </ul>
    <div class="mt-5 flex justify-end gap-2">
      <button class="key key-line" @click="keepBoth(asked)">Keep both files</button>
      <button class="key bg-ember text-ground" @click="use(asked)">Use it all the same</button>
    </div>
  </DialogFrame>
</template>
