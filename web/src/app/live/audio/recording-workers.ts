import {
  recordingAnswerSchema,
  type AnswerTo,
  type RecordingRequest,
  type RequestKind,
} from './recording-messages';

/** Workers that know recordings at most: two at least, since one mostly waits for a file, and one core is left to the sound. */
function mostWorkers(): number {
  return Math.max(2, Math.min(4, (navigator.hardwareConcurrency || 2) - 1));
}

/** What comes first: what is played, what is to be looked at, what can wait. */
export const URGENCY = { played: 0, wanted: 1, coming: 2, measured: 3 } as const;

/** What a worker could not do, and why. */
export class Undone extends Error {}

interface Job {
  request: RecordingRequest;
  urgency: number;
  done(answer: unknown): void;
  failed(error: Error): void;
}

/** Has recordings read, listened to and made into sounds by workers, which are started when there is something to do. */
export class RecordingWorkers {
  private readonly idle: Worker[] = [];
  private readonly jobs: Job[] = [];
  private working = 0;

  /** Has something done. @throws Undone with the reason, when it is not */
  async ask<K extends RequestKind>(
    request: Extract<RecordingRequest, { kind: K }>,
    urgency: number,
  ): Promise<AnswerTo<K>> {
    return new Promise((resolve, reject) => {
      this.jobs.push({
        ...{ request, urgency, failed: reject },
        done: (data) => {
          const answer = recordingAnswerSchema.safeParse(data);
          if (!answer.success) reject(new Undone('it came out broken'));
          else if (answer.data.kind === 'refused') reject(new Undone(answer.data.problem));
          else resolve(answer.data as AnswerTo<K>);
        },
      });
      queueMicrotask(() => this.handOut());
    });
  }

  private handOut(): void {
    while (this.jobs.length > 0 && this.working < mostWorkers()) {
      const job = this.jobs.reduce((a, b) => (a.urgency <= b.urgency ? a : b));
      this.jobs.splice(this.jobs.indexOf(job), 1);
      this.working++;
      void this.carryOut(job);
    }
  }

  private async carryOut(job: Job): Promise<void> {
    const worker = this.idle.pop() ?? start();
    try {
      job.done(await answerOf(worker, job.request));
      this.idle.push(worker);
    } catch (error) {
      // One that broke down may never answer again.
      worker.terminate();
      job.failed(error instanceof Error ? error : new Undone(String(error)));
    }
    this.working--;
    this.handOut();
  }
}

function start(): Worker {
  return new Worker(new URL('./recordings.worker', import.meta.url), { type: 'module' });
}

async function answerOf(worker: Worker, request: RecordingRequest): Promise<unknown> {
  return new Promise((resolve, reject) => {
    const listening = new AbortController();
    const { signal } = listening;
    const end = (work: () => void) => {
      listening.abort();
      work();
    };
    worker.addEventListener('message', ({ data }) => end(() => resolve(data)), { signal });
    worker.addEventListener(
      'error',
      () =>
        end(() => reject(new Undone('what reads recordings did not start; load the page anew'))),
      { signal },
    );
    try {
      worker.postMessage(request);
    } catch (error) {
      end(() => reject(error instanceof Error ? error : new Undone(String(error))));
    }
  });
}
