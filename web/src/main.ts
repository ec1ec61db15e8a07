import { bootstrapApplication } from '@angular/platform-browser';
import { App } from './app/app';
import { appConfig } from './app/app.config';
import { startSoundWorkers } from './app/live/audio/sound-workers';

startSoundWorkers();
bootstrapApplication(App, appConfig).catch((error: unknown) => console.error(error));
