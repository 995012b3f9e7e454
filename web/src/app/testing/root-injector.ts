import {
  ErrorHandler,
  Injector,
  provideZonelessChangeDetection,
  // The one injector in which what is provided in the root can be had without a browser.
  ɵR3Injector,
  type EnvironmentProviders,
  type Provider,
} from '@angular/core';

/** The app's root injector, as far as a test needs it: what is `providedIn: 'root'` and what is given. */
export function rootInjector(providers: readonly (Provider | EnvironmentProviders)[]): Injector & { destroy(): void } {
  const all = [
    provideZonelessChangeDetection(),
    { provide: ErrorHandler, useValue: { handleError: (e: unknown) => console.error(e) } },
    ...providers,
  ];
  const injector = new ɵR3Injector(all, Injector.NULL, 'test', new Set(['root', 'environment'] as const));
  (injector as unknown as { resolveInjectorInitializers(): void }).resolveInjectorInitializers();
  return injector;
}
