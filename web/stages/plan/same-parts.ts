import { type ComponentType, memo } from 'react';
import type { StudyDocument } from '../../../core/model/study-document.ts';

/**
 * A part of the plan that is made again only when the collections change that it shows. A plan may have two hundred
 * items, and an edit of its seed must not draw them all again.
 */
export const showing = (
  Part: ComponentType<{ document: StudyDocument }>,
  ...collections: readonly (keyof StudyDocument)[]
) =>
  memo(
    Part,
    ({ document: a }, { document: b }) =>
      a.study.id === b.study.id && collections.every((name) => a[name] === b[name]),
  );
