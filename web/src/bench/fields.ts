import type { OwnField } from '../api/client';
import { shortDay } from '../ui/dates';

/** A value as it is read. */
export const fieldSaid = (field: OwnField, value: string): string =>
  field.kind === 'date' && /^\d{4}-\d\d-\d\d$/.test(value) ? shortDay(value) : field.kind === 'tick' ? '✓' : value;
