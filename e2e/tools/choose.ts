import type { FileChooser, Page } from '@playwright/test'

/** Does what makes a page ask for files, and gives it some. */
export async function chooseFiles(
  page: Page,
  ask: () => Promise<void>,
  files: Parameters<FileChooser['setFiles']>[0],
): Promise<void> {
  const chooser = page.waitForEvent('filechooser')
  // The browser is told beside what comes next that choosers are waited for; once the page has answered, it knows.
  await page.evaluate(() => document.title)
  await ask()
  await (await chooser).setFiles(files)
}
