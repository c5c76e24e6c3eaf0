import { pino } from 'pino';
import { readEnvironment } from './environment';
import { startServer } from './server';

try {
  const environment = readEnvironment();
  const logger = pino({ level: environment.LOG_LEVEL });
  const server = await startServer(environment, logger);
  logger.info({ url: server.url }, 'listening');
  const stop = (signal: string) => {
    logger.info({ signal }, 'stopping');
    server.stop().then(
      () => process.exit(0),
      () => process.exit(1),
    );
  };
  process.once('SIGTERM', () => stop('SIGTERM'));
  process.once('SIGINT', () => stop('SIGINT'));
} catch (error) {
  const taken = (error as { code?: string }).code === 'EADDRINUSE';
  process.stderr.write(
    taken
      ? 'The port is taken by another program. Choose another with PORT=….\n'
      : `${error instanceof Error ? error.message : String(error)}\n`,
  );
  process.exit(1);
}
