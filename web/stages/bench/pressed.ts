/** A key as it is pressed, or held down so that it comes again and again. */
export interface Pressed {
  key: string;
  held: boolean;
}

export const pressedIn = ({ key, repeat }: Pick<KeyboardEvent, 'key' | 'repeat'>): Pressed => ({
  key: key.toLowerCase(),
  held: repeat,
});
