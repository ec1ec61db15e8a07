import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatTableModule } from '@angular/material/table';
import {
  controlInWords,
  isFree,
  isStruck,
  partsOfPlace,
  usualManner,
  usualTravel,
  type Tie,
} from '@pentachord/core/model';
import {
  choicesOf,
  clashesOf,
  isInForce,
  keyOfSent,
  OWNER_NAMES,
  whatOf,
  type Job,
  type TargetSources,
} from '@pentachord/core/ties';
import { Store } from '@ngrx/store';
import { eachFrame } from '../../live/frames';
import { Live } from '../../live/live';
import { TieEditing, type TyingOwner } from '../../state/editing/tie-editing';
import type { AppState } from '../../state/reducers';
import { selectSteps, selectThings } from '../../state/selectors';
import { UndoButtons } from '../../ui/undo-buttons';
import { ControlUses } from '../control-uses';
import { settingInWords } from './setting-words';
import { TieForm } from './tie-form';
import { TieLearning } from './tie-learning';

/** A line of the table. */
interface Row {
  id: string;
  job: Job;
  control: string;
  /** True where the line before is of the same control. */
  again: boolean;
  does: string;
  owner: string;
  inForce: boolean;
  remark: string;
}

/** What of a line moves while one plays. */
interface Moving {
  /** 0–127, −1 for nowhere. */
  position: number;
  now: string;
  waits: boolean;
}

const OWNERS: readonly TyingOwner[] = ['patch', 'song', 'rig'];

/** The Ties view: what every control does now, and how a control is given something to do by touching it. */
@Component({
  selector: 'pc-ties-view',
  imports: [MatButtonModule, MatButtonToggleModule, MatTableModule, TieForm, UndoButtons],
  providers: [ControlUses, TieLearning],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './ties-view.html',
  styleUrl: './ties-view.scss',
  host: { '(document:keydown.escape)': 'putAway()' },
})
export class TiesView {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly live = inject(Live);
  protected readonly editing = inject(TieEditing);
  protected readonly learning = inject(TieLearning);
  private readonly uses = inject(ControlUses);
  private readonly things = this.store.selectSignal(selectThings);
  private readonly steps = this.store.selectSignal(selectSteps);
  protected readonly owners = OWNERS;
  protected readonly ownerNames = OWNER_NAMES;
  protected readonly columns = ['control', 'stands', 'does', 'now', 'owner'];
  /** Whose the next tie is, or the chosen one. */
  protected readonly owner = signal<TyingOwner>('patch');
  private readonly chosenId = signal<string | null>(null);
  private readonly draft = signal<Tie | null>(null);
  protected readonly moving = signal<readonly Moving[]>([]);

  protected readonly sources = computed((): TargetSources => {
    const { songs, cues } = this.things();
    return {
      patch: this.editing.patch(),
      places: this.editing
        .devices()
        .map(({ place }) => place)
        .filter((place) => partsOfPlace(place).kind !== 'module'),
      steps: this.steps().map(({ songId, cueId }) => ({
        ...{ songId, cueId },
        name: cueId ? `${songs[songId].name}: ${cues[cueId].name}` : songs[songId].name,
      })),
    };
  });

  protected readonly rows = computed((): Row[] => {
    const all = this.editing.jobs();
    const sorted = [...all].sort((a, b) => orderOf(a) - orderOf(b));
    return sorted.map((job, at) => ({
      id: idOf(job, all.indexOf(job)),
      job,
      control: controlInWords(job, this.editing.devices()),
      again: at > 0 && isSameControl(sorted[at - 1], job),
      does: this.uses.inWords(job),
      owner: OWNER_NAMES[job.owner],
      inForce: isInForce(job),
      remark: this.remarkOn(job, all),
    }));
  });

  /** The tie that is shown beside the table: the chosen one, or the one that is being made. */
  protected readonly shown = computed(
    (): { tie: Tie; owner: TyingOwner; isNew: boolean } | null => {
      const touched = this.learning.touched();
      const draft = this.draft();
      if (touched) {
        const tie = draft ?? this.firstTie();
        if (!tie) return null;
        const manner = draft ? {} : usualManner(touched.message);
        const reads = touched.reads ?? tie.reads;
        const { place, message } = touched;
        return {
          tie: { ...tie, ...manner, place, message, reads },
          owner: this.owner(),
          isNew: true,
        };
      }
      const job = this.rows().find(({ id }) => id === this.chosenId())?.job;
      if (job?.task.kind !== 'tie' || job.owner === 'show') return null;
      return { tie: job.task.tie, owner: job.owner, isNew: false };
    },
  );
  protected readonly name = computed(() => {
    const shown = this.shown();
    return shown ? controlInWords(shown.tie, this.editing.devices()) : '';
  });
  /** What a control that was touched does already. */
  protected readonly doesAlready = computed(() => {
    const touched = this.learning.touched();
    if (!touched) return '';
    const does = this.uses.of(touched.place, touched.message);
    return does.length > 0 ? `It does already: ${does.join(', ')}.` : 'It does nothing yet.';
  });

  constructor() {
    eachFrame(() => this.look());
  }

  protected rowId(_at: number, { id }: Row): string {
    return id;
  }

  protected round(position: number): number {
    return Math.round(position);
  }

  protected chosen(row: Row): boolean {
    return row.id === this.chosenId() && !this.learning.touched();
  }

  protected choose({ id, job }: Row): void {
    this.learning.stop();
    this.draft.set(null);
    this.chosenId.set(id);
    if (job.owner !== 'show') this.owner.set(job.owner);
  }

  protected touch(): void {
    this.draft.set(null);
    this.chosenId.set(null);
    this.learning.wait();
  }

  protected putAway(): void {
    this.learning.stop();
    this.draft.set(null);
  }

  /** What is made for several patches names layers by their letters. */
  protected chooseOwner(owner: TyingOwner): void {
    const shown = this.shown();
    this.owner.set(owner);
    if (!shown) return;
    const { tie } = shown;
    const fits = owner === 'patch' || isFree(tie.target);
    const [first] = choicesOf(whatOf(tie.target), owner, this.sources());
    const target = fits ? tie.target : (first?.target ?? tie.target);
    if (shown.isNew) this.draft.set({ ...tie, target });
    else if (shown.owner !== owner && this.editing.hasRoom(owner)) {
      this.editing.remove(shown.owner, tie.id);
      this.editing.put(owner, { ...tie, target });
      this.chosenId.set(`${owner} ${tie.id}`);
    }
  }

  protected change({ tie, gesture }: { tie: Tie; gesture?: string }): void {
    const shown = this.shown();
    if (shown?.isNew) this.draft.set(tie);
    else if (shown) this.editing.put(shown.owner, tie, gesture);
  }

  protected make(): void {
    const shown = this.shown();
    if (!shown?.isNew) return;
    this.editing.put(shown.owner, shown.tie);
    this.nextId = crypto.randomUUID();
    this.putAway();
    this.chosenId.set(`${shown.owner} ${shown.tie.id}`);
  }

  protected remove(): void {
    const shown = this.shown();
    if (shown) this.editing.remove(shown.owner, shown.tie.id);
    this.chosenId.set(null);
  }

  /** A first proposal: what is struck mutes the first layer, what is moved goes with its level. */
  private firstTie(): Tie | null {
    const touched = this.learning.touched();
    if (!touched) return null;
    const what = isStruck(touched.message) ? 'mute' : 'level';
    const [first] = choicesOf(what, this.owner(), this.sources());
    const [else_] = choicesOf('nextCue', this.owner(), this.sources());
    const { target } = first ?? else_;
    const { place, message } = touched;
    const id = this.nextId;
    return { id, place, message, target, ...usualTravel(target), ...usualManner(message) };
  }
  private nextId = crypto.randomUUID();

  private remarkOn(job: Job, all: readonly Job[]): string {
    if (!job.sent) return 'the rig has no such control';
    if (job.yieldsTo) return `rests: ${OWNER_NAMES[job.yieldsTo]} has taken it`;
    if (!isInForce(job)) return 'rests: this patch has no such thing';
    const { sameControl, sameTarget } = clashesOf(job, all);
    const devices = this.editing.devices();
    const also = sameTarget.map((other) => controlInWords(other, devices));
    const words = [
      ...(also.length > 0 ? [`${also.join(' and ')} moves it too: the last one counts`] : []),
      ...(sameControl.length > 0
        ? [`also: ${sameControl.map((other) => this.uses.inWords(other)).join(', ')}`]
        : []),
    ];
    return words.join('; ');
  }

  /** Looks where controls stand now; only what has moved is drawn anew. */
  private look(): void {
    const { tied } = this.live;
    const before = this.moving();
    let isOther = before.length !== this.rows().length;
    const now = this.rows().map(({ job, inForce }, at): Moving => {
      const { position, value, waits } = tied.stateOf(job);
      const target = job.target;
      const words = inForce && target ? settingInWords(target, value) : '';
      const moving = { position, now: words, waits };
      const old = before.at(at);
      if (old?.position === position && old.now === words && old.waits === waits) return old;
      isOther = true;
      return moving;
    });
    if (isOther) this.moving.set(now);
  }
}

function orderOf({ sent, yieldsTo }: Job): number {
  if (!sent) return Infinity;
  const { device, kind, number } = sent;
  return device * 1e6 + kind * 1e3 + number * 2 + (yieldsTo ? 1 : 0);
}

function isSameControl(a: Job, b: Job): boolean {
  return a.sent !== null && b.sent !== null && keyOfSent(a.sent) === keyOfSent(b.sent);
}

function idOf({ owner, task }: Job, at: number): string {
  return task.kind === 'tie' ? `${owner} ${task.tie.id}` : `${owner} ${at}`;
}
