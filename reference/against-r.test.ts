import { describe, expect, it } from 'vitest';
import { pairsAgainst } from '../core/analysis/against-baseline.ts';
import { analyse } from '../core/analysis/analyse.ts';
import { pairMethod } from '../core/compare/methods.ts';
import { lineInterval } from '../core/compare/line-interval.ts';
import { leastSquares } from '../core/compare/trend.ts';
import { twoWay } from '../core/compare/two-way.ts';
import { ALPHA } from '../core/model/alpha.ts';
import { varianceComponents } from '../core/precision/variance-components.ts';
import { type SeededRandom, seededRandom } from '../core/random/seeded.ts';
import { DEFAULT_RULE } from '../core/screening/rule.ts';
import { summarise } from '../core/summary/summary.ts';
import { traceValue } from '../core/trace/values.ts';
import { askR, vector } from './r.ts';

/** Cases that nobody chose: as many items, readings and spreads as the seed gives. */
const SEEDS = [1, 2, 3, 4, 5, 6, 7, 8];

const draw = (random: SeededRandom, n: number, mean: number, sd = 1) =>
  Array.from({ length: n }, () => Number((mean + sd * random.normal()).toFixed(3)));

function groups(seed: number) {
  const random = seededRandom(seed);
  return Array.from({ length: 3 + random.below(4) }, (_, item) =>
    draw(random, 3 + random.below(6), 10 + 0.5 * item, 0.5 + random.unit()),
  );
}

const near = (found: number | null | undefined, expected: number | undefined, relative: number) => {
  expect(Math.abs((found ?? Number.NaN) - (expected ?? Number.NaN))).toBeLessThan(
    relative * Math.max(1, Math.abs(expected ?? 0)),
  );
};

/** Readings and their groups, as R takes them. */
const inR = (drawn: readonly number[][]) =>
  `y <- ${vector(drawn.flat())}; g <- factor(${vector(drawn.flatMap((values, i) => values.map(() => i)))})`;

const compared = (drawn: readonly number[][], name: Parameters<typeof pairMethod>[0]) =>
  pairMethod(name).compare({
    samples: drawn.map((values, i) => {
      const kept = Float64Array.from(values);
      return { item: String(i), kept, summary: summarise(kept, ALPHA) };
    }),
    blocks: undefined,
    alpha: ALPHA,
  }).pairs;

describe('pairs', () => {
  it.each(SEEDS)('by Dunn and Holm are those of their definition in R, seed %d', (seed) => {
    // With ties, which the marks of testers have many of.
    const drawn = groups(seed).map((values) => values.map((value) => Math.round(value)));
    const rows = askR(`${inR(drawn)}
      r <- rank(y); n <- length(y); t <- table(y)
      v <- n * (n + 1) / 12 - sum(t^3 - t) / (12 * (n - 1))
      m <- tapply(r, g, mean); k <- table(g); pairs <- combn(nlevels(g), 2)
      p <- apply(pairs, 2, function(x) 2 * pnorm(-abs(m[x[1]] - m[x[2]]) / sqrt(v * (1 / k[x[1]] + 1 / k[x[2]]))))
      say(p.adjust(p, "holm"))`);
    compared(drawn, 'dunn').forEach(({ p }, i) => {
      near(p, rows[0]?.[i], 1e-9);
    });
  });
  it.each(SEEDS)('by Tamhane’s T2 are Welch’s t with Šidák’s correction, seed %d', (seed) => {
    const drawn = groups(seed);
    const rows = askR(`${inR(drawn)}
      pairs <- combn(nlevels(g), 2); m <- ncol(pairs)
      for (i in 1:m) {
        x <- split(y, g); a <- x[[pairs[1, i]]]; b <- x[[pairs[2, i]]]
        t <- t.test(b, a, conf.level = 0.95^(1 / m))
        say(1 - (1 - t$p.value)^m, t$conf.int)
      }`);
    compared(drawn, 'tamhane-t2').forEach(({ p, low, high }, i) => {
      near(p, rows[i]?.[0], 1e-7);
      near(low, rows[i]?.[1], 1e-7);
      near(high, rows[i]?.[2], 1e-7);
    });
  });
  it.each(SEEDS)('by Tukey are those of TukeyHSD, seed %d', (seed) => {
    const drawn = groups(seed);
    const rows = askR(`${inR(drawn)}
      h <- TukeyHSD(aov(y ~ g))$g
      for (i in 1:nrow(h)) say(h[i, c("lwr", "upr", "p adj")])`);
    compared(drawn, 'tukey').forEach(({ p, low, high }, i) => {
      near(low, rows[i]?.[0], 1e-5);
      near(high, rows[i]?.[1], 1e-5);
      near(p, rows[i]?.[2], 1e-5);
    });
  });
});

describe('intervals from a baseline', () => {
  it.each(SEEDS)('by Dunnett are those of multcomp, as far as it draws them, seed %d', (seed) => {
    const drawn = groups(seed);
    const rows = askR(`suppressMessages(library(multcomp)); set.seed(1); ${inR(drawn)}
      c <- confint(glht(aov(y ~ g), linfct = mcp(g = "Dunnett")))$confint
      for (i in 1:nrow(c)) say(c[i, ])`);
    const analysis = analyse(
      drawn.map((values, i) => ({ item: String(i), values })),
      {
        better: { kind: 'higher' },
        rule: { ...DEFAULT_RULE, name: 'none' },
        alpha: ALPHA,
        margin: { kind: 'absolute', value: 0 },
        resamples: 0,
        seed: 1,
      },
    );
    pairsAgainst(analysis, 0, 'dunnett')
      .filter(({ a }) => a === 0)
      .forEach(({ difference, low, high }, i) => {
        near(difference, rows[i]?.[0], 1e-9);
        near(low, rows[i]?.[1], 3e-3);
        near(high, rows[i]?.[2], 3e-3);
      });
  });
});

describe('two factors', () => {
  it.each(SEEDS)('of unequal counts are taken apart by type II, seed %d', (seed) => {
    const random = seededRandom(seed);
    const cells = Array.from({ length: 3 }, (_r, row) =>
      Array.from({ length: 2 }, (_c, column) =>
        draw(random, 2 + random.below(4), 5 + row + 0.4 * row * column),
      ),
    );
    const long = cells.flatMap((row, a) =>
      row.flatMap((values, b) => values.map((value) => ({ value, a, b }))),
    );
    const [rows, columns, interaction] = askR(`
      y <- ${vector(long.map(({ value }) => value))}
      a <- factor(${vector(long.map(({ a }) => a))}); b <- factor(${vector(long.map(({ b }) => b))})
      full <- lm(y ~ a * b); both <- lm(y ~ a + b); s <- deviance(full) / full$df.residual
      line <- function(less, more, df) { ss <- deviance(less) - deviance(more); f <- ss / df / s; say(ss, f, pf(f, df, full$df.residual, lower.tail = FALSE)) }
      line(lm(y ~ b), both, 2); line(lm(y ~ a), both, 1); line(both, full, 2)`);
    const found = twoWay(cells.map((row) => row.map((values) => Float64Array.from(values))));
    for (const [term, expected] of [
      [found?.rows, rows],
      [found?.columns, columns],
      [found?.interaction, interaction],
    ] as const) {
      near(term?.ss, expected?.[0], 1e-8);
      near(term?.f, expected?.[1], 1e-7);
      near(term?.p, expected?.[2], 1e-7);
    }
  });
});

describe('a line', () => {
  it.each(SEEDS)('has the band that predict gives, seed %d', (seed) => {
    const random = seededRandom(seed);
    const x = draw(random, 4 + random.below(8), 20, 5);
    const y = x.map((value) => 3 + 0.4 * value + random.normal());
    const asked = [x[0] as number, 20, 40];
    const rows = askR(`x <- ${vector(x)}; y <- ${vector(y)}
      p <- predict(lm(y ~ x), data.frame(x = ${vector(asked)}), interval = "confidence")
      for (i in 1:nrow(p)) say(p[i, ])`);
    const line = leastSquares(x, y, ALPHA);
    asked.forEach((value, i) => {
      const band = line?.spread && lineInterval(line, line.spread, value);
      near(band?.[0], rows[i]?.[1], 1e-7);
      near(band?.[1], rows[i]?.[2], 1e-7);
    });
  });
});

describe('variance components', () => {
  it.each(SEEDS)('are those of lme4, crossed and unbalanced, seed %d', (seed) => {
    const random = seededRandom(seed);
    const off = Array.from({ length: 12 }, () => 0.6 * random.normal());
    const read = Array.from({ length: 60 }, (_, i) => ({
      ...{ item: i % 4, operator: random.below(3), session: random.below(6) },
      noise: random.normal(),
    })).map(({ item, operator, session, noise }) => ({
      ...{ item, operator, session },
      y: Number((10 + item + (off[operator] ?? 0) + (off[3 + session] ?? 0) + 0.3 * noise).toFixed(3)),
    }));
    const column = (of: (row: (typeof read)[number]) => number) => vector(read.map(of));
    const rows = askR(`suppressMessages(library(lme4))
      d <- data.frame(y = ${column(({ y }) => y)}, i = factor(${column(({ item }) => item)}),
        o = factor(${column(({ operator }) => operator)}), s = factor(${column(({ session }) => session)}))
      m <- suppressMessages(lmer(y ~ i + (1 | o) + (1 | s), d))
      v <- as.data.frame(VarCorr(m)); say(c(v$vcov[v$grp == "o"], v$vcov[v$grp == "s"], sigma(m)^2))`);
    const found = varianceComponents(
      read.map(({ y }) => y),
      read.map(({ item }) => item),
      [
        { groups: read.map(({ operator }) => operator), count: 3 },
        { groups: read.map(({ session }) => session), count: 6 },
      ],
    );
    [...(found?.between ?? []), found?.residual].forEach((variance, i) => {
      near(variance, rows[0]?.[i], 2e-3);
    });
  });
});

describe('a cooling trace', () => {
  it.each(SEEDS)('has the time constant of nls, and a slope of lm, seed %d', (seed) => {
    const random = seededRandom(seed);
    const tau = 2000 + 3000 * random.unit();
    const times = Float64Array.from({ length: 200 }, (_, i) => 60 * i);
    const values = times.map((t) =>
      Number((20 + 60 * Math.exp(-t / tau) + 0.2 * random.normal()).toFixed(3)),
    );
    const window = { from: 0, to: times.at(-1) ?? 0 };
    const asked = { threshold: 0, low: 0, high: 0, afterS: 0, toZero: false };
    const value = (quantity: 'timeConstant' | 'slope') => {
      const found = traceValue({ times, values }, window, { quantity, ...asked }, '');
      return 'problem' in found ? undefined : found.value;
    };
    const rows = askR(`t <- ${vector([...times])}; y <- ${vector([...values])}
      fit <- nls(y ~ c + a * exp(-t / tau), start = list(c = 19, a = 55, tau = ${String(1.2 * tau)}),
        control = nls.control(tol = 1e-7, minFactor = 1e-9))
      say(coef(fit)["tau"])
      say(coef(lm(y ~ t))[2])`);
    near(value('timeConstant'), rows[0]?.[0], 1e-5);
    near(value('slope'), rows[1]?.[0], 1e-9);
  });
});
