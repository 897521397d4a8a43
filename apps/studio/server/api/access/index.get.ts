/** Whether the browser that asks was let in, and whether a passphrase lets it in. */
export default defineOpenApi(async (event) => {
  setHeader(event, 'cache-control', 'no-store')
  return { entered: await mayEnter(event.headers), passphrase: accessSettings().passphrase !== null }
})
