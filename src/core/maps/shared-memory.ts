/**
 * A memory that is one in the whole process. A bundler may evaluate the module that keeps it several times, once for each
 * page, and each would find out anew what the others know.
 */
export function sharedMemory<Memory>(name: string, make: () => Memory): Memory {
  const holder = globalThis as { [key: symbol]: unknown }
  return (holder[Symbol.for(`steppe.${name}`)] ??= make()) as Memory
}
