import type { PlaceInQueue } from '../../../../core/bench/tracks.ts';

/** Where a reading goes: its round, and the levels that it is read at. */
export const placeWords = (place: PlaceInQueue | undefined, none: string): string =>
  !place
    ? none
    : [
        place.added ? 'beyond the plan' : `round ${String(place.ref.round)}`,
        ...place.setting.map(({ name }) => name),
      ].join(', ');
