import { bootstrapApplication } from '@angular/platform-browser';
import { appConfig } from './app/app.config';
import { Root } from './app/shell/root';

void bootstrapApplication(Root, appConfig);
