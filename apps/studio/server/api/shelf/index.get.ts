/** What is on the shelf. */
export default defineApi(async () => ({ items: await shelfItems() }))
