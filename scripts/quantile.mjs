/** The value below which a share of some lies. */
export const quantile = (values, share) =>
  [...values].sort((a, b) => a - b)[Math.floor(share * (values.length - 1))];
