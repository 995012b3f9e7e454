const stood: [string, PropertyDescriptor | undefined][] = [];

/** Puts something in the place of globals until the test is done: files of one process share them. */
export function putGlobals(values: Readonly<Record<string, unknown>>): void {
  for (const [name, value] of Object.entries(values)) {
    stood.push([name, Object.getOwnPropertyDescriptor(globalThis, name)]);
    Object.defineProperty(globalThis, name, { value, configurable: true, writable: true });
  }
}

/** Gives back what stood there before, the last first. Called after each test by whoever put something. */
export function giveGlobalsBack(): void {
  for (const [name, was] of stood.splice(0).reverse())
    if (was) Object.defineProperty(globalThis, name, was);
    else Reflect.deleteProperty(globalThis, name);
}
