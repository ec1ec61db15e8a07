import { inject } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { catchError, from, of, switchMap } from 'rxjs';
import { Api, ServerFault } from '../saving/api';
import { DeskCopy } from '../keeping/desk-copy';
import { keptAnswer, keptChanges } from '../keeping/opening';
import { showToOpen, type Answered } from '../show/document';
import { loading } from './loading';

/** Milliseconds for which the server is waited for when there is a copy to play from. */
const PATIENCE = 1200;

/** Fetches everything, and opens the show that was open last, else the newest. */
export const fetchEverything = createEffect(
  (actions = inject(Actions), api = inject(Api), copy = inject(DeskCopy)) =>
    actions.pipe(
      ofType(loading.asked),
      switchMap(() =>
        from(open(api, copy)).pipe(
          catchError((error: unknown) =>
            of(
              loading.failed({
                problem: inWords(error),
              }),
            ),
          ),
        ),
      ),
    ),
  { functional: true },
);

/** What went wrong, what is safe, and what to do. */
function inWords(error: unknown): string {
  if (error instanceof ServerFault) return error.message;
  return error instanceof TypeError
    ? 'The server does not answer. Nothing was changed. See that Pentachord’s server is running, then try again.'
    : 'What the server answers cannot be read. Nothing was changed. Start Pentachord again, and look into the backups if that does not help.';
}

async function open(api: Api, copy: DeskCopy) {
  const asked = api.everything();
  // Whoever gives up on it must not leave an error behind that nobody hears.
  asked.catch(() => undefined);
  const [kept, { bookmark }] = await Promise.all([copy.read(), copy.readPlace()]);
  let isKept = false;
  let answered: Answered;
  try {
    answered = await (kept ? withPatience(asked) : asked);
  } catch (error) {
    // A database that the server cannot open is a matter for the backups; one that says nothing is played without.
    if (!kept || error instanceof ServerFault) throw error;
    answered = keptAnswer(kept);
    isKept = true;
  }
  const unsaved = keptChanges(kept, answered);
  const showId = showToOpen(
    answered.repertoire.shows.map(({ value }) => value),
    bookmark?.showId ?? null,
  );
  return loading.loaded({ ...answered, unsaved, isKept, showId, wasHere: bookmark !== null });
}

/** What is asked for, or an error when it takes too long. */
async function withPatience<T>(asked: Promise<T>): Promise<T> {
  let timer: ReturnType<typeof setTimeout> | undefined;
  const late = new Promise<never>((_resolve, reject) => {
    timer = setTimeout(() => reject(new TypeError('the server says nothing')), PATIENCE);
  });
  return Promise.race([asked, late]).finally(() => clearTimeout(timer));
}
