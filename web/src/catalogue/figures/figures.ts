import type { components } from '../../api/schema';

export type FiguresOf = components['schemas']['FiguresOf'];
export type FigureLine = components['schemas']['FigureLine'];
export type Comparison = components['schemas']['ComparisonShown'];
export type Group = components['schemas']['GroupCompared'];
export type MeasuredAs = Comparison['as'];
export type ComparedBy = Comparison['by'];

/** A figure as it is read: whole when it is large, with a place behind the point when it is small. */
export const shown = (value: number): string =>
  value.toLocaleString('en', { maximumFractionDigits: value < 10 && !Number.isInteger(value) ? 1 : 0 });
