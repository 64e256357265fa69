/** Levels of ten minutes of stereo beside what “sox stats” takes for its own: each as a whole process. */
import { spawnSync } from 'node:child_process';
import path from 'node:path';
import { quantile } from './quantile.mjs';
import { ROOT, ensureSox } from './setup.mjs';

const RUNS = 15;

/** Seconds that each of some commands takes, run in turn, so that a busy moment is no one’s alone: the median of each. */
function timed(commands) {
  const times = commands.map(() => []);
  for (let run = 0; run < RUNS; run += 1)
    commands.forEach(([command, ...args], i) => {
      const start = performance.now();
      const { status } = spawnSync(command, args, { cwd: ROOT });
      if (status !== 0) throw new Error(`${command} ended with ${status}`);
      times[i].push((performance.now() - start) / 1000);
    });
  return times.map((all) => quantile(all, 0.5));
}

/** @param row prints a figure beside its aim */
export function tenMinutes(folder, row) {
  ensureSox();
  const file = path.join(folder, 'ten-minutes.wav');
  const made = [
    '-R',
    '-n',
    '-r',
    '48000',
    '-b',
    '16',
    '-c',
    '2',
    file,
    'synth',
    '600',
    'pinknoise',
    'vol',
    '0.1',
  ];
  spawnSync('sox', made, { cwd: ROOT });
  const [theirs, ours] = timed([
    ['sox', file, '-n', 'stats'],
    [process.execPath, 'dist/node/analyse.js', '--recording', file],
  ]);
  row('sox stats, ten minutes of stereo: time', `${theirs.toFixed(2)} s`, 'none');
  row('analyse --recording, the same: time', `${ours.toFixed(2)} s`, `${theirs.toFixed(2)} s`);
  const memory = `process.argv=[process.argv[0],'analyse','--recording',${JSON.stringify(file)}];import(${JSON.stringify(path.join(ROOT, 'dist/node/analyse.js'))}).then(()=>process.stderr.write(String(process.resourceUsage().maxRSS)))`;
  const { stderr } = spawnSync(process.execPath, ['-e', memory], { cwd: ROOT, encoding: 'utf8' });
  row('analyse --recording, the same: memory', `${(Number(stderr) / 1024).toFixed(0)} MB`, 'under 200 MB');
}
