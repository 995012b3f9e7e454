import { provideZonelessChangeDetection, type ApplicationConfig } from '@angular/core';
import { MAT_TOOLTIP_DEFAULT_OPTIONS } from '@angular/material/tooltip';
import { MAT_SNACK_BAR_DEFAULT_OPTIONS } from '@angular/material/snack-bar';
import { provideRouter, withComponentInputBinding } from '@angular/router';
import { provideEffects } from '@ngrx/effects';
import { provideStore } from '@ngrx/store';
import { routes } from './app.routes';
import { PersistenceEffects } from './state/persistence.effects';
import { workbenchFeature } from './state/workbench.store';
import { database } from './storage/database';
import { GraphicsRepository } from './storage/graphics-repository';
import { SlotsRepository } from './storage/slots-repository';

export const appConfig: ApplicationConfig = {
  providers: [
    provideZonelessChangeDetection(),
    provideRouter(routes, withComponentInputBinding()),
    provideStore({ [workbenchFeature.name]: workbenchFeature.reducer }),
    { provide: SlotsRepository, useFactory: () => new SlotsRepository(database()) },
    { provide: GraphicsRepository, useFactory: () => new GraphicsRepository(database()) },
    provideEffects(PersistenceEffects),
    { provide: MAT_TOOLTIP_DEFAULT_OPTIONS, useValue: { showDelay: 400, hideDelay: 0, touchendHideDelay: 1000 } },
    {
      provide: MAT_SNACK_BAR_DEFAULT_OPTIONS,
      useValue: { duration: 8000, horizontalPosition: 'center', verticalPosition: 'bottom' },
    },
  ],
};
