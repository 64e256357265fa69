/**
 * What the invented items of the demo studies are really like. The seeded script draws their readings from it, and
 * the simulated instruments measure it.
 */
export const FANS = [
  { name: 'Brunnow', code: 'BR', speed: 3.19, sd: 0.036, price: 34, levelDb: 51.5, powerW: 38 },
  { name: 'Calvessa 2', code: 'C2', speed: 3.42, sd: 0.021, price: 49, levelDb: 49.2, powerW: 41 },
  { name: 'Dappelin', code: 'DA', speed: 3.05, sd: 0.018, price: 27, levelDb: 50.4, powerW: 31 },
  { name: 'Fenwhir', code: 'FE', speed: 3.185, sd: 0.03, price: 41, levelDb: 47.8, powerW: 29 },
  { name: 'Merrowick', code: 'ME', speed: 3.025, sd: 0.02, price: 22, levelDb: 52.9, powerW: 36 },
  { name: 'Quillop S', code: 'QS', speed: 2.71, sd: 0.024, price: 18, levelDb: 46.1, powerW: 24 },
] as const;

/** Error at 0 °C, and what is added to it by each 100 °C; a slow probe shows what it has come to so far. */
export const THERMOMETERS = [
  { name: 'Brindle P', code: 'BP', offset: 0.3, per100: 0.4, lagS: 6, price: 12, statedError: 1, ease: 3 },
  { name: 'Casker 3', code: 'C3', offset: 0.1, per100: 0.1, lagS: 3, price: 29, statedError: 0.5, ease: 4 },
  { name: 'Dorrit', code: 'DO', offset: -0.2, per100: -0.5, lagS: 18, price: 9, statedError: 2, ease: 1 },
  { name: 'Ellow Mini', code: 'EM', offset: 0.2, per100: 0.7, lagS: 7, price: 16, statedError: 1, ease: 2 },
  { name: 'Fennick', code: 'FN', offset: 0.5, per100: 0.3, lagS: 4, price: 21, statedError: 1, ease: 4 },
] as const;

/** How evenly water falls: millilitres in a cup at the middle, what a cup at the rim gets of it, how ragged it is. */
export const SPRINKLERS = [
  { name: 'Arvo 360', code: 'A3', price: 14, middleMl: 62, rim: 0.42, ragged: 0.16, flow: 11.8 },
  { name: 'Brookle', code: 'BK', price: 32, middleMl: 48, rim: 0.86, ragged: 0.07, flow: 9.6 },
  { name: 'Cassin', code: 'CS', price: 19, middleMl: 55, rim: 0.68, ragged: 0.11, flow: 10.9 },
  { name: 'Dewlo', code: 'DW', price: 24, middleMl: 50, rim: 0.8, ragged: 0.09, flow: 9.8 },
] as const;

/** Litres a minute at 1 bar, and how it grows with the pressure: 0.5 is an open orifice, 0 a perfect regulator. */
export const AERATORS = [
  { name: 'No aerator', code: 'NO', flow: 9.4, power: 0.5 },
  { name: 'Glint 5', code: 'G5', flow: 4.9, power: 0.08 },
  { name: 'Halvard', code: 'HV', flow: 5.6, power: 0.15 },
  { name: 'Jettik', code: 'JT', flow: 5.5, power: 0.32 },
  { name: 'Korre Eco', code: 'KE', flow: 4.0, power: 0.12 },
] as const;

/** Flour that passes in a minute, in per cent of what is fed, and lumps that stay. */
export const SIEVES = [
  { name: 'Grann', code: 'GR', meshMm: 0.8, yield: 88, sd: 1.1, lumps: 9 },
  { name: 'Holm 40', code: 'H4', meshMm: 0.6, yield: 71, sd: 1.6, lumps: 3 },
  { name: 'Ivel', code: 'IV', meshMm: 1, yield: 95, sd: 0.8, lumps: 21 },
  { name: 'Jonna', code: 'JO', meshMm: 0.7, yield: 87.4, sd: 1.2, lumps: 5 },
] as const;

/** Flow of an aerator in L/min at a pressure in bar. */
export const flowAt = ({ flow, power }: { flow: number; power: number }, bar: number): number =>
  flow * bar ** power;

/**
 * What share of its heat above the surroundings a flask keeps over a night, and five months later: one has lost its
 * vacuum by then.
 */
export const FLASKS = [
  { name: 'Orrin', code: 'OR', kept: 0.79, later: 0.79, price: 34, massKg: 0.42 },
  { name: 'Velt 1', code: 'V1', kept: 0.77, later: 0.768, price: 28, massKg: 0.39 },
  { name: 'Tamsel', code: 'TA', kept: 0.74, later: 0.738, price: 22, massKg: 0.45 },
  { name: 'Quarn', code: 'QU', kept: 0.735, later: 0.56, price: 26, massKg: 0.36 },
  { name: 'Bresk', code: 'BK', kept: 0.66, later: 0.66, price: 11, massKg: 0.31 },
] as const;
