import { useFileDialog } from '@vueuse/core'
import type { Asset } from '@dusk/timeline'
import { useProject } from '~/features/project/projectStore'
import { useNotices } from '~/features/ui/noticesStore'
import { relink } from './relink'
import { useUploads } from './uploadsStore'

/** Gives a source another file, or the one that is missing, chosen by the person. */
export function useFileReplacing() {
  const project = useProject()
  const notices = useNotices()
  const uploads = useUploads()
  const dialog = useFileDialog({ multiple: false, reset: true })
  let chosenFor: Asset | null = null

  function replaceFile(asset: Asset): void {
    chosenFor = asset
    dialog.open()
  }

  dialog.onChange(async (files) => {
    const [file, asset] = [files?.[0], chosenFor]
    if (!file || !asset) return
    try {
      await relink(asset.id, file, project.id, uploads)
      notices.say(`${file.name} is read in for ${asset.name}.`)
      project.refreshSources()
    } catch (error) {
      notices.warn((error as Error).message)
    }
  })

  return { replaceFile }
}
