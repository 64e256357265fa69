/**
 * Makes the demo studies: invented items, plans as a tester would settle them, and readings with something planted
 * in them for each stage to catch.
 *
 *   npm run demo:make
 */
import { mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { documentProblems } from '../core/formats/study-json.ts';
import { deskFans } from './desk-fans.ts';
import { flourSieves } from './flour-sieves.ts';
import { kitchenThermometers } from './kitchen-thermometers.ts';
import { lawnSprinklers } from './lawn-sprinklers.ts';
import { loggedFlasks, loggedFlasksAgain } from './logged-flasks.ts';
import { tapAerators } from './tap-aerators.ts';
import { vacuumFlasks, vacuumFlasksAgain } from './vacuum-flasks.ts';

const LOGGED = { 'logged-flasks': loggedFlasks(), 'logged-flasks-again': loggedFlasksAgain() };

const DEMOS = {
  'desk-fans': deskFans(),
  'flour-sieves': flourSieves().document,
  'kitchen-thermometers': kitchenThermometers().document,
  'lawn-sprinklers': lawnSprinklers().document,
  'tap-aerators': tapAerators().document,
  'vacuum-flasks': vacuumFlasks(),
  'vacuum-flasks-again': vacuumFlasksAgain(),
  ...Object.fromEntries(Object.entries(LOGGED).map(([name, { document }]) => [name, document])),
};

for (const [name, document] of Object.entries(DEMOS)) {
  const problems = documentProblems(document);
  if (problems.length > 0) throw new Error(`${name}: ${JSON.stringify(problems)}`);
  writeFileSync(
    fileURLToPath(new URL(`./${name}.json`, import.meta.url)),
    `${JSON.stringify(document, null, 1)}\n`,
  );
}

const place = (name: string) => fileURLToPath(new URL(`./files/${name}`, import.meta.url));
rmSync(place(''), { recursive: true, force: true });
mkdirSync(place(''));
for (const { files } of Object.values(LOGGED))
  for (const [name, text] of files) writeFileSync(place(name), text);
