/**
 * Makes the demo studies: invented items, plans as a tester would settle them, and readings with something planted
 * in them for each stage to catch.
 *
 *   npm run demo:make [-- --recordings]
 */
import { mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { documentProblems } from '../core/formats/study-json.ts';
import { deskFans } from './desk-fans.ts';
import { flourSieves } from './flour-sieves.ts';
import { kitchenThermometers } from './kitchen-thermometers.ts';
import { lawnSprinklers } from './lawn-sprinklers.ts';
import { recordedFans } from './recorded-fans.ts';
import { loggedFlasks, loggedFlasksAgain } from './logged-flasks.ts';
import { tapAerators } from './tap-aerators.ts';
import { vacuumFlasks, vacuumFlasksAgain } from './vacuum-flasks.ts';

const RECORDED = { 'recorded-fans': await recordedFans() };
const LOGGED = { 'logged-flasks': loggedFlasks(), 'logged-flasks-again': loggedFlasksAgain() };

const DEMOS = {
  'desk-fans': deskFans(),
  'flour-sieves': flourSieves().document,
  'kitchen-thermometers': kitchenThermometers().document,
  'lawn-sprinklers': lawnSprinklers().document,
  'tap-aerators': tapAerators().document,
  'vacuum-flasks': vacuumFlasks(),
  'vacuum-flasks-again': vacuumFlasksAgain(),
  ...Object.fromEntries(
    Object.entries({ ...LOGGED, ...RECORDED }).map(([name, { document }]) => [name, document]),
  ),
};

/** Only the recordings, which are made from their seed where the demo is wanted: they are too large to be kept with it. */
const onlyRecordings = process.argv.includes('--recordings');
const place = (name: string) => fileURLToPath(new URL(`./files/${name}`, import.meta.url));

if (!onlyRecordings) {
  for (const [name, document] of Object.entries(DEMOS)) {
    const problems = documentProblems(document);
    if (problems.length > 0) throw new Error(`${name}: ${JSON.stringify(problems)}`);
    writeFileSync(
      fileURLToPath(new URL(`./${name}.json`, import.meta.url)),
      `${JSON.stringify(document, null, 1)}\n`,
    );
  }
  rmSync(place(''), { recursive: true, force: true });
}
mkdirSync(place(''), { recursive: true });
const kept = onlyRecordings
  ? Object.values(RECORDED)
  : [...Object.values(LOGGED), ...Object.values(RECORDED)];
for (const { files } of kept) for (const [name, content] of files) writeFileSync(place(name), content);
