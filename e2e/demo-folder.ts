import { BenchServer } from './bench-server.ts';

/** Makes a folder with the demo in it once, as it is after a first look at the list of studies; tests start on copies. */
export default async function makeDemoFolder(): Promise<() => void> {
  const server = new BenchServer(true);
  await server.start();
  let listed: { preview: unknown; renewing?: boolean }[];
  do {
    listed = await server.get('/studies');
  } while (listed.some(({ renewing }) => renewing));
  await server.kill('SIGTERM');
  process.env.DEMO_FOLDER = server.folder;
  return () => {
    server.remove();
  };
}
