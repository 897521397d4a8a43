/** What is in stock. */
export default defineApi(async () => ({ items: await stockItems() }))
