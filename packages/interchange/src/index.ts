export * from './manifest'
export * from './delivery'
export * from './purposes'
