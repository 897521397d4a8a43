import 'fake-indexeddb/auto'
