import type { Chooser, ChooserControl } from '../model/patch/chooser.js';
import {
  keyOfTarget,
  stands,
  targetIn,
  type ControlTarget,
} from '../model/patch/control-target.js';
import type { Patch } from '../model/patch/patch.js';
import type { Tie } from '../model/patch/tie.js';
import type { Place } from '../model/rig/place.js';
import type { Device } from '../model/rig/rig.js';
import { sentAt } from '../model/show/sent.js';
import type { ShowControl } from '../model/show/show-control.js';
import type { ShowMessage } from '../model/show/show-message.js';
import { senderAt } from '../rig/senders.js';

/** Whose a job of a control is, the nearest first. */
export const OWNERS = ['patch', 'song', 'show', 'rig'] as const;
export type Owner = (typeof OWNERS)[number];

/** What a control is there for. */
export type Task =
  | { kind: 'tie'; tie: Tie }
  | { kind: 'chooser'; chooser: Chooser; control: ChooserControl }
  | { kind: 'show'; control: ShowControl };

/** One thing that a control does, or would do if nothing nearer had taken the control. */
export interface Job {
  owner: Owner;
  place: Place;
  message: ShowMessage;
  task: Task;
  /** What it moves in the patch that is played, named by its own things; null for choosers, and where there is none. */
  target: ControlTarget | null;
  /** Index of the device that brings it, the high half of its status, and its number (−1 for any); null where the rig has none. */
  sent: { device: number; kind: number; number: number } | null;
  /** The nearer owner that has taken its control; null where it is in force. */
  yieldsTo: Owner | null;
}

/** Where jobs of controls come from. */
export interface JobSources {
  devices: readonly Device[];
  patch: Pick<Patch, 'layers' | 'treatments' | 'choosers' | 'controls'> | null;
  song: { ties: readonly Tie[] } | null;
  show: { controls: readonly ShowControl[] } | null;
  rig: { ties: readonly Tie[] } | null;
}

/**
 * Everything that controls do now, the nearest first: a control that the patch ties does nothing for the song, the show and the
 * rig, one that the song ties nothing for the show and the rig, and so on.
 */
export function jobsNow({ devices, patch, song, show, rig }: JobSources): Job[] {
  const taken = new Map<string, Owner>();
  const jobs: Job[] = [];
  const enter = (owner: Owner, tasks: readonly Task[]) => {
    for (const task of tasks) {
      const { place, message } = task.kind === 'tie' ? task.tie : task.control;
      const sent = sentFrom(devices, place, message);
      const key = sent && keyOfSent(sent);
      const before = key === null ? undefined : taken.get(key);
      const target = targetOf(task, patch);
      // What means nothing in this patch takes nothing from those behind it.
      const takes = task.kind !== 'tie' || target !== null;
      if (key !== null && !before && takes) taken.set(key, owner);
      const yieldsTo = before && before !== owner ? before : null;
      jobs.push({ owner, place, message, task, target, sent, yieldsTo });
    }
  };
  const ties = (all: readonly Tie[] = []) => all.map((tie): Task => ({ kind: 'tie', tie }));
  enter('patch', ties(patch?.controls));
  enter(
    'patch',
    (patch?.choosers ?? []).flatMap((chooser) =>
      chooser.controls.map((control): Task => ({ kind: 'chooser', chooser, control })),
    ),
  );
  enter('song', ties(song?.ties));
  enter(
    'show',
    (show?.controls ?? []).map((control) => ({ kind: 'show', control })),
  );
  enter('rig', ties(rig?.ties));
  return jobs;
}

/** True for a job that is done when its control is moved. */
export function isInForce({ sent, yieldsTo, task, target }: Job): boolean {
  return sent !== null && yieldsTo === null && (task.kind !== 'tie' || target !== null);
}

function sentFrom(devices: readonly Device[], place: Place, message: ShowMessage): Job['sent'] {
  const device = senderAt(devices, place);
  const found = sentAt({ place, message }, devices);
  return device < 0 || !found ? null : { device, ...found.sent };
}

/** What a device sends as one text; two controls are the same when theirs is. */
export function keyOfSent({ device, kind, number }: NonNullable<Job['sent']>): string {
  return `${device} ${kind} ${number}`;
}

function targetOf(task: Task, patch: JobSources['patch']): ControlTarget | null {
  return task.kind === 'tie' ? targetIn(task.tie.target, patch) : null;
}

/** What is to be known of a job beside what it does. */
export interface Clash {
  /** Other jobs in force of the same control. */
  sameControl: readonly Job[];
  /** Other jobs in force that move the same setting by another control. */
  sameTarget: readonly Job[];
}

/** What else a job’s control does, and what else moves its setting. */
export function clashesOf(job: Job, jobs: readonly Job[]): Clash {
  const others = jobs.filter((other) => other !== job && isInForce(other));
  if (!isInForce(job) || !job.sent) return { sameControl: [], sameTarget: [] };
  const key = keyOfSent(job.sent);
  const isOwn = ({ sent }: Job) => sent !== null && keyOfSent(sent) === key;
  const setting = job.target && stands(job.target) ? keyOfTarget(job.target) : null;
  return {
    sameControl: others.filter(isOwn),
    sameTarget: others.filter(
      (other) =>
        setting !== null &&
        !isOwn(other) &&
        other.target !== null &&
        keyOfTarget(other.target) === setting,
    ),
  };
}
