import { Button } from './button.tsx';

/** Loads the page again, where that helps. */
export const LoadAgain = () => (
  <Button
    size="small"
    onPress={() => {
      location.reload();
    }}
  >
    Load the page again
  </Button>
);
