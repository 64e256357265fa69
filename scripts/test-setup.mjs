/** Before tests of the server: they start its thread as it ships. */
export { ensureNodeBuild as setup } from './setup.mjs';
