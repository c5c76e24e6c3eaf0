import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { OwnServer } from './own-server';

/** Two server processes on one database behind a balancer, as in production; requests go to one after the other. */
export class TwoServers {
  private constructor(
    readonly first: OwnServer,
    readonly second: OwnServer,
    private readonly balancer: ChildProcess,
    private readonly folder: string,
  ) {}

  static async start(database: string, port: number): Promise<TwoServers> {
    const first = await OwnServer.withDemo(database, port + 1);
    const second = await first.beside(port + 2);
    const folder = mkdtempSync(join(tmpdir(), 'woodruff-balancer-'));
    const file = join(folder, 'nginx.conf');
    writeFileSync(file, configuration(folder, port, [port + 1, port + 2]));
    const balancer = spawn('/usr/sbin/nginx', ['-c', file, '-p', folder, '-g', 'daemon off;'], { stdio: 'ignore' });
    const servers = new TwoServers(first, second, balancer, folder);
    first.behind(`http://127.0.0.1:${port}`);
    await first.isWell();
    return servers;
  }

  async stop(): Promise<void> {
    this.balancer.kill('SIGTERM');
    await this.first.stop();
    await this.second.stop();
    rmSync(this.folder, { recursive: true, force: true });
  }
}

/** A request that a process did not answer goes to the other one, unless it may have been done already. */
const configuration = (folder: string, port: number, servers: readonly number[]): string => `
error_log ${folder}/error.log;
pid ${folder}/pid;
events { worker_connections 256; }
http {
  access_log off;
  client_body_temp_path ${folder}/body;
  proxy_temp_path ${folder}/proxy;
  fastcgi_temp_path ${folder}/fastcgi;
  uwsgi_temp_path ${folder}/uwsgi;
  scgi_temp_path ${folder}/scgi;
  client_max_body_size 50m;
  upstream woodruff { ${servers.map((at) => `server 127.0.0.1:${at} max_fails=1 fail_timeout=5s;`).join(' ')} }
  server {
    listen 127.0.0.1:${port};
    location / {
      proxy_pass http://woodruff;
      proxy_set_header X-Forwarded-For $proxy_add_x_forwarded_for;
      proxy_set_header X-Forwarded-Proto $scheme;
      proxy_set_header Host $host;
      proxy_http_version 1.1;
      proxy_set_header Connection "";
      proxy_buffering off;
      proxy_next_upstream error timeout;
      proxy_connect_timeout 2s;
    }
  }
}
`;
