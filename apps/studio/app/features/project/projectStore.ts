import { defineStore } from 'pinia'
import { computed, shallowRef } from 'vue'
import { EMPTY_HISTORY, type CommandInput, type SingleInput } from '@dusk/timeline'
import { useNotices } from '~/features/ui/noticesStore'
import { OpenProject } from './openProject'
import type { PendingImport, SourceState } from '~~/server/utils/sources'

const NO_SOURCES: Record<string, SourceState> = {}
const NO_IMPORTS: PendingImport[] = []

/** Points at the project that is open; whatever belongs to one is in it, and ends with it. */
export const useProject = defineStore('project', () => {
  const notices = useNotices()
  const current = shallowRef<OpenProject | null>(null)
  const sender = computed(() => current.value?.sender.value ?? null)

  const id = computed(() => current.value?.id ?? '')
  const document = computed(() => current.value?.document.value ?? null)
  const reelId = computed({
    get: () => current.value?.reelId.value ?? '',
    set: (to) => {
      if (current.value) current.value.reelId.value = to
    },
  })
  const reel = computed(() => document.value?.reels[reelId.value] ?? null)

  async function open(projectId: string): Promise<void> {
    close()
    const opening = new OpenProject(projectId)
    current.value = opening
    await opening.begin()
  }

  /** @param projectId closes that one alone: by then another may be open */
  function close(projectId = id.value): void {
    if (projectId !== id.value) return
    current.value?.end()
    current.value = null
  }

  /** A project while it is the one that is open. */
  const of = (projectId: string): OpenProject | null => (projectId === id.value ? current.value : null)

  const sources = computed({
    get: () => current.value?.states.sources.value ?? NO_SOURCES,
    set: (to) => {
      if (current.value) current.value.states.sources.value = to
    },
  })
  const pendingImports = computed({
    get: () => current.value?.states.pendingImports.value ?? NO_IMPORTS,
    set: (to) => {
      if (current.value) current.value.states.pendingImports.value = to
    },
  })

  /**
   * An edit of the person's. Returns whether it was carried out; a refusal is said at the foot of the page.
   * @param run names a run of edits that belong together, such as presses of an arrow: one that follows within a second
   * is taken back with those before it
   */
  const perform = (input: CommandInput, run?: string): boolean => current.value?.perform(input, run) ?? false

  /**
   * Several edits that are one gesture: all are carried out, or none of them.
   * @param label what the history calls it, in the past
   */
  function performAll(inputs: readonly SingleInput[], label: string): boolean {
    return perform(inputs.length === 1 ? inputs[0]! : { type: 'batch', label, commands: [...inputs] })
  }

  /** Id of the step that would be taken back next. */
  const lastStep = (): string | null => current.value?.history.last ?? null

  /** Takes a certain step back while it is still the last one; says so where others have followed. */
  function undoStep(stepId: string | null): void {
    if (stepId && lastStep() === stepId) current.value?.history.undo()
    else notices.say('Other steps have followed: take them back one by one, or go back in the history.')
  }

  return {
    id,
    document,
    reelId,
    reel,
    sources,
    pendingImports,
    history: computed(() => current.value?.history.steps.value ?? EMPTY_HISTORY),
    kept: computed(() => current.value?.kept.value ?? 'every edit kept'),
    offline: computed(() => sender.value?.offline.value ?? false),
    full: computed(() => sender.value?.full.value ?? false),
    /** Why edits wait though the server answers, in words. */
    blocked: computed(() => sender.value?.blocked.value ?? null),
    missing: computed(() => current.value?.missing.value ?? null),
    waiting: computed(() => current.value?.waiting.value ?? 0),
    /** Edits that could not be kept, until the person sends them away. */
    refused: computed(() => current.value?.refused.list.value ?? []),
    open,
    close,
    of,
    perform,
    performAll,
    undo: () => current.value?.history.undo(),
    redo: () => current.value?.history.redo(),
    undoStep,
    lastStep,
    heardOfEdit: (seq: number) => current.value?.heardOfEdit(seq) ?? Promise.resolve(),
    refreshSources: () => current.value?.states.refresh(),
    reconnect: () => current.value?.reconnect() ?? Promise.resolve(),
    sendRefusedAway: () => current.value?.refused.sendAway(),
  }
})
