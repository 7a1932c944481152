// Installs what is missing, builds, serves on 127.0.0.1 and prints the address. The Shelf starts with the demo parts.
import { spawn } from 'node:child_process';
import { createServer } from 'node:net';
import { installPackages, run } from './steps.mjs';

if (!installPackages() || !run('npm', ['run', '--silent', 'build'])) process.exit(1);

const free = (port) =>
  new Promise((resolve) => {
    const probe = createServer().once('error', () => resolve(false));
    probe.listen(port, '127.0.0.1', () => probe.close(() => resolve(true)));
  });
let port = Number(process.env.PORT ?? 3000);
while (!(await free(port))) port++;

const address = `http://127.0.0.1:${port}`;
const server = spawn('node', ['server/serve.mjs', String(port)], { stdio: ['ignore', 'pipe', 'inherit'] });
server.stdout.on('data', (text) => {
  if (String(text).includes('Ready')) console.log(`\nNod Sway is at ${address}\nCtrl+C ends it.`);
});
server.on('exit', (code) => process.exit(code ?? 0));
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal));
