import { playDemoOnce } from './server';

// ./test plays the demo beside the server's specs, so that the end-to-end tests begin at once.
playDemoOnce();
