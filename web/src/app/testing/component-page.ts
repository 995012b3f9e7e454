import { ErrorHandler, NgModule, provideZonelessChangeDetection } from '@angular/core';
import { getTestBed } from '@angular/core/testing';
import { BrowserTestingModule, platformBrowserTesting } from '@angular/platform-browser/testing';

/** What every component test stands on: zoneless as the app is, and an error in a template fails its test. */
@NgModule({
  providers: [
    provideZonelessChangeDetection(),
    {
      provide: ErrorHandler,
      useValue: {
        handleError: (e: unknown) => {
          throw e;
        },
      },
    },
  ],
})
class Zoneless {}

getTestBed().initTestEnvironment([BrowserTestingModule, Zoneless], platformBrowserTesting(), {
  errorOnUnknownElements: true,
  errorOnUnknownProperties: true,
});
