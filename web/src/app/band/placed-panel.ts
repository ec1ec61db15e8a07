import { DragDropModule, type CdkDragEnd } from '@angular/cdk/drag-drop';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  inject,
  input,
  output,
  signal,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import { MatTabsModule } from '@angular/material/tabs';
import {
  BAND_SETTINGS,
  DIRECTIONS,
  isKeyboard,
  placeInWords,
  type BandKey,
  type BandSetting,
  type ControlTarget,
  type Pattern,
  type PatternShape,
} from '@pentachord/core/model';
import {
  BEGINS_WORDS,
  FOLLOWS_WORDS,
  LEAVING_WORDS,
  STARTING_WORDS,
  STEPS,
  TAKES_OVER_WORDS,
} from '@pentachord/core/patterns';
import { noteName, type NoteNaming } from '@pentachord/core/pitch';
import { eachFrame } from '../live/frames';
import { Live } from '../live/live';
import { BandEditing } from '../state/editing/band-editing';
import { PatternAuditioning } from '../state/session/pattern-auditioning';
import { BandSound } from '../ui/band/band-sound';
import { PatternSearch } from '../ui/band/pattern-search';
import { NameField } from '../ui/names/name-field';
import { NumberField } from '../ui/numbers/number-field';
import { TieButton } from '../ui/ties/tie-button';

const DIRECTION_WORDS: Record<PatternShape['direction'], string> = {
  forward: 'forward',
  backward: 'backward',
  thereAndBack: 'there and back',
};
const BAND_KEY_NAMES: Record<BandKey['does'], string> = {
  start: 'all begin',
  stop: 'all stop',
  next: 'all go on to their next',
};
/** Patterns that are offered at one time. */
const MOST_OFFERED = 60;

/** A choice of a select. */
interface Choice {
  value: string | number;
  words: string;
}
const choicesOf = (words: Readonly<Record<string, string>>): Choice[] =>
  Object.entries(words).map(([value, said]) => ({ value, words: said }));

/** Where a pattern was let go, in pixels of the window. */
export interface DroppedPattern {
  pattern: Pattern;
  x: number;
  y: number;
}

/** The shelf beside the band, and everything of the chosen accompanist and its chosen pattern. */
@Component({
  selector: 'pc-placed-panel',
  imports: [
    DragDropModule,
    MatButtonModule,
    MatCheckboxModule,
    MatFormFieldModule,
    MatInputModule,
    MatSelectModule,
    MatTabsModule,
    NameField,
    NumberField,
    TieButton,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './placed-panel.html',
  styleUrl: './placed-panel.scss',
})
export class PlacedPanel {
  private readonly live = inject(Live);
  protected readonly editing = inject(BandEditing);
  protected readonly search = inject(PatternSearch);
  protected readonly auditioning = inject(PatternAuditioning);
  private readonly sound = inject(BandSound);
  readonly middleC = input.required<NoteNaming>();
  /** A pattern of the shelf was dragged somewhere. */
  readonly dropped = output<DroppedPattern>();

  /** Which of its parts is open: the shelf first. */
  readonly tab = signal(0);
  protected readonly BAND_KEY_NAMES = BAND_KEY_NAMES;
  protected readonly doings = ['start', 'stop', 'next'] as const;
  protected readonly layers = computed(() => this.editing.patch()?.layers ?? []);
  protected readonly found = computed(() => this.search.found().slice(0, MOST_OFFERED));
  private readonly touch = this.live.touchWait<string>();
  /** The pattern that goes onto the next key that is struck. */
  protected readonly waiting = this.touch.waiting;
  protected readonly manners = [
    { of: 'starting', name: 'Its keys', choices: choicesOf(STARTING_WORDS) },
    { of: 'begins', name: 'Begins', choices: choicesOf(BEGINS_WORDS) },
    { of: 'takesOver', name: 'The next comes', choices: choicesOf(TAKES_OVER_WORDS) },
    { of: 'follows', name: 'What hands play', choices: choicesOf(FOLLOWS_WORDS) },
    { of: 'leaving', name: 'At another song', choices: choicesOf(LEAVING_WORDS) },
  ] as const;

  protected readonly isKeys = computed(() => {
    const chosen = this.editing.chosen();
    const place = chosen?.place ?? '';
    return chosen?.starters === 'notes' && /^(keys|pedalboard)/.test(place);
  });
  /** Keys, pads or buttons there are where the chosen accompanist is started. */
  protected readonly starters = computed(() => {
    const chosen = this.editing.chosen();
    if (!chosen) return [];
    return this.editing
      .startersOf(chosen)
      .map((number) => ({ number, name: this.editing.starterName(chosen, number) }));
  });
  /** Everything at which patterns can be started. */
  protected readonly places = computed((): Choice[] =>
    this.editing.devices().flatMap((device): Choice[] => {
      const words = placeInWords(device.place);
      const notes = { value: `${device.place} notes`, words };
      const buttons = { value: `${device.place} controllers`, words: `${words}: buttons` };
      if (isKeyboard(device)) return [notes];
      if (device.kind === 'pedal') return [buttons];
      if (device.kind !== 'controlBox') return [];
      return [
        ...(device.padNotes.length > 0 ? [notes] : []),
        ...(device.knobControllers.length > 0 ? [buttons] : []),
      ];
    }),
  );
  protected readonly where = computed(() => {
    const chosen = this.editing.chosen();
    return chosen ? `${chosen.place} ${chosen.starters}` : '';
  });

  /** What of the chosen pattern is a number. */
  protected readonly numbers = computed(() => {
    const placed = this.editing.placed();
    if (!placed) return [];
    const { shape } = placed;
    const of = (
      setting: BandSetting,
      label: string,
      value: number,
      put: (value: number, gesture: string) => void,
      kind: 'signed' | 'decimal' | 'plain' = 'plain',
    ) => {
      const { name, min, max, step } = BAND_SETTINGS[setting];
      return { setting, name, label, value, put, kind, min, max, step: Math.max(step, 0.05) };
    };
    const shaped = (changes: Partial<PatternShape>, words: string, gesture: string) =>
      this.editing.shape(changes, words, gesture);
    const { quantise } = shape;
    return [
      of(
        'weight',
        'Weight, lighter below 0, heavier above',
        shape.weight,
        (weight, gesture) => shaped({ weight }, 'weight changed', gesture),
        'decimal',
      ),
      of(
        'transpose',
        'Transposition of the pattern, semitones',
        shape.transpose,
        (transpose, gesture) => shaped({ transpose }, 'pattern moved', gesture),
        'signed',
      ),
      of(
        'steps',
        'Steps of the key by which it is moved',
        placed.steps,
        (steps, gesture) => this.editing.changePlaced({ steps }, 'pattern moved', gesture),
        'signed',
      ),
      of('swing', 'Swing, percent', shape.swing, (swing, gesture) =>
        shaped({ swing }, 'swing changed', gesture),
      ),
      of('length', 'Length, beats, 0 as it is written', placed.length ?? 0, (length, gesture) =>
        this.editing.changePlaced({ length: length || null }, 'length changed', gesture),
      ),
      ...(quantise
        ? [
            of(
              'quantise',
              'How far it is quantised, 0 to 1',
              quantise.strength,
              (strength, gesture) =>
                shaped({ quantise: { ...quantise, strength } }, 'pattern quantised', gesture),
              'decimal',
            ),
          ]
        : []),
    ];
  });
  /** What of the chosen pattern is one of a few. */
  protected readonly selects = computed(() => {
    const shape = this.editing.placed()?.shape;
    if (!shape) return [];
    const steps = STEPS.map(({ step, words }) => ({ value: step, words }));
    const of = (
      setting: BandSetting,
      name: string,
      value: string | number,
      choices: Choice[],
      put: (value: string | number) => void,
    ) => ({ setting, name, value, choices, put });
    return [
      of(
        'quantise',
        'Quantised to',
        shape.quantise?.step ?? 0,
        [{ value: 0, words: 'as written' }, ...steps],
        (step) => this.setStep('quantise', Number(step)),
      ),
      of(
        'thin',
        'Thinned to',
        shape.thin ?? 0,
        [{ value: 0, words: 'every note' }, ...steps],
        (step) => this.setStep('thin', Number(step)),
      ),
      of(
        'turned',
        'Direction',
        shape.direction,
        DIRECTIONS.map((value) => ({ value, words: DIRECTION_WORDS[value] })),
        (direction) =>
          this.editing.shape(
            { direction: direction as PatternShape['direction'] },
            'direction changed',
          ),
      ),
      of(
        'rate',
        'Time',
        shape.rate,
        [
          { value: 0.5, words: 'half time' },
          { value: 1, words: 'as written' },
          { value: 2, words: 'double time' },
        ],
        (rate) => this.editing.shape({ rate: rate as PatternShape['rate'] }, 'time changed'),
      ),
    ];
  });
  /** Keys that notes of the pattern are written on, by the name of their piece. */
  protected readonly noteKeys = computed(() => {
    const { notes = [], key: musical } = this.editing.pattern() ?? {};
    const keys = [...new Set(notes.map(({ key }) => key))].sort((a, b) => b - a);
    const pieces = musical ? new Map<number, string>() : this.sound.pieces();
    return keys.map((key) => ({ key, name: pieces.get(key) ?? noteName(key, this.middleC()) }));
  });

  constructor() {
    eachFrame(() => this.auditioning.look());
    inject(DestroyRef).onDestroy(() => this.auditioning.stop());
  }

  protected targetOf(setting: BandSetting): ControlTarget {
    return { kind: 'accompanist', accompanistId: this.editing.chosen()?.id ?? '', setting };
  }

  protected whatOf(setting: BandSetting): string {
    return `${BAND_SETTINGS[setting].name} of ${this.editing.chosen()?.name ?? 'nobody'}`;
  }

  protected setManner(of: (typeof this.manners)[number]['of'], value: string): void {
    // The choices are those of this very setting.
    this.editing.change({ [of]: value }, 'accompanist changed');
  }

  protected setWhere(value: string): void {
    const [place, starters] = value.split(' ');
    // The choices are places of the rig.
    this.editing.change({ place, starters } as object, 'place of the accompanist');
  }

  protected setStop(isThere: boolean): void {
    this.editing.change({ stopKey: isThere ? this.editing.freeStarter() : null }, 'stop key');
  }

  protected setStart({ id, starts }: BandKey, accompanistId: string, placedId: string): void {
    const others = Object.entries(starts).filter(([one]) => one !== accompanistId);
    const own = placedId ? [[accompanistId, placedId] as const] : [];
    this.editing.changeBandKey(id, { starts: Object.fromEntries([...others, ...own]) });
  }

  /** Enter takes what is found first, and the field is ready for the next one. */
  protected step(event: KeyboardEvent): void {
    if (event.key !== 'Escape') event.stopPropagation();
    const first = this.found().at(0);
    if (event.key !== 'Enter' || !first) return;
    event.preventDefault();
    this.take(first);
    this.search.text.set('');
  }

  protected take(pattern: Pattern, key?: number): void {
    if (!this.editing.chosen()) this.editing.add();
    this.editing.place(pattern, key);
  }

  /** The pattern goes onto the key that is struck next at the place of the chosen accompanist. */
  protected waitForKey(pattern: Pattern): void {
    if (!this.editing.chosen()) this.editing.add();
    this.touch.begin(pattern.id, () =>
      this.live.host.listenToKeys((key, _velocity, deviceId) => {
        const place = this.editing.chosen()?.place;
        const device = this.editing.devices().find(({ id }) => id === deviceId);
        if (!device || (device.place !== place && !device.alsoAt.includes(place ?? device.place)))
          return;
        this.touch.stop();
        this.take(pattern, key);
      }),
    );
  }

  protected drop({ source, dropPoint }: CdkDragEnd, pattern: Pattern): void {
    source.reset();
    this.dropped.emit({ pattern, x: dropPoint.x, y: dropPoint.y });
  }

  private setStep(of: 'thin' | 'quantise', step: number): void {
    const before = this.editing.placed()?.shape.quantise;
    if (of === 'thin') this.editing.shape({ thin: step || null }, 'pattern thinned');
    else
      this.editing.shape(
        { quantise: step === 0 ? null : { step, strength: before?.strength ?? 1 } },
        'pattern quantised',
      );
  }
}
