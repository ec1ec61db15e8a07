import type { Provider } from '@angular/core';
import {
  MAT_DATE_LOCALE,
  provideNativeDateAdapter,
  type MatDateFormats,
} from '@angular/material/core';

/** Days with their weekday, and months in letters, so that nobody takes one for the other. */
const DAYS: MatDateFormats = {
  parse: { dateInput: null },
  display: {
    dateInput: { weekday: 'short', day: 'numeric', month: 'short', year: 'numeric' },
    monthYearLabel: { year: 'numeric', month: 'short' },
    dateA11yLabel: { year: 'numeric', month: 'long', day: 'numeric' },
    monthYearA11yLabel: { year: 'numeric', month: 'long' },
  },
};

/** Fields of days, as this browser’s language writes them. */
export function provideDays(): Provider[] {
  return [
    provideNativeDateAdapter(DAYS),
    { provide: MAT_DATE_LOCALE, useValue: navigator.language },
  ];
}
