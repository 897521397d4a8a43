export * from './manifest'
