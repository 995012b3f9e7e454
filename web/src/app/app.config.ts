import {
  ErrorHandler,
  Injector,
  inject,
  provideAppInitializer,
  provideBrowserGlobalErrorListeners,
  provideZonelessChangeDetection,
  type ApplicationConfig,
} from '@angular/core';
import { MAT_TOOLTIP_DEFAULT_OPTIONS } from '@angular/material/tooltip';
import { MAT_SNACK_BAR_DEFAULT_OPTIONS } from '@angular/material/snack-bar';
import { provideRouter, withComponentInputBinding, withNavigationErrorHandler, withPreloading } from '@angular/router';
import { provideEffects } from '@ngrx/effects';
import { provideStore } from '@ngrx/store';
import { routes } from './app.routes';
import { PreloadNext } from './preload';
import { PersistenceEffects } from './document/persistence.effects';
import { FetchAhead } from './storage/fetch-ahead';
import { ColourSuggestions } from './document/colour-suggestions.service';
import { LastWordsService } from './document/last-words.service';
import { surviving, workbenchFeature } from './document/workbench.store';
import { database } from './storage/database';
import { GraphicsRepository } from './storage/graphics-repository';
import { SlotsRepository } from './storage/slots-repository';
import { PixelsService } from './pixels/pixels.service';
import { FontReader } from './type/font-reader';
import { ColourHelp } from './ui/colour-help';
import { ToldErrors } from './told-errors';

export const appConfig: ApplicationConfig = {
  providers: [
    provideZonelessChangeDetection(),
    provideBrowserGlobalErrorListeners(),
    { provide: ErrorHandler, useClass: ToldErrors },
    provideRouter(
      routes,
      withComponentInputBinding(),
      withPreloading(PreloadNext),
      // A place whose code could not be fetched: it is said, and one stays where one is.
      withNavigationErrorHandler(({ error }) => inject(ErrorHandler).handleError(error)),
    ),
    provideStore({ [workbenchFeature.name]: workbenchFeature.reducer }, { metaReducers: [surviving] }),
    provideAppInitializer(() => {
      inject(LastWordsService);
      const injector = inject(Injector);
      inject(FetchAhead).begin(() => injector.get(PixelsService).busy);
    }),
    { provide: SlotsRepository, useFactory: () => new SlotsRepository(database()) },
    { provide: GraphicsRepository, useFactory: () => new GraphicsRepository(database()) },
    { provide: ColourHelp, useExisting: ColourSuggestions },
    { provide: FontReader, useExisting: PixelsService },
    provideEffects(PersistenceEffects),
    {
      provide: MAT_TOOLTIP_DEFAULT_OPTIONS,
      useValue: {
        // Above: below the stage's foot stand Add and the settings; and it is never in the pointer's way.
        position: 'above',
        disableTooltipInteractivity: true,
        showDelay: 400,
        hideDelay: 0,
        touchendHideDelay: 1000,
      },
    },
    {
      provide: MAT_SNACK_BAR_DEFAULT_OPTIONS,
      useValue: { duration: 8000, horizontalPosition: 'center', verticalPosition: 'bottom' },
    },
  ],
};
