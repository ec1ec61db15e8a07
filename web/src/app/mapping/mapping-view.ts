import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  input,
  signal,
  untracked,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatMenuModule } from '@angular/material/menu';
import { MatSelectModule } from '@angular/material/select';
import { Router } from '@angular/router';
import {
  extentOf,
  joined,
  memoryOfRecording,
  placeAfter,
  smoothing,
  zoneRemarks,
  type PlayableAudio,
  type ZoneRemark,
} from '@pentachord/core/mapping';
import {
  newPatchSound,
  recordingsOfSound,
  soundsOfKeepsake,
  shortName,
  SOUND_CATEGORIES,
  type Recording,
  type SampleZone,
  type SoundCategory,
} from '@pentachord/core/model';
import { noteName } from '@pentachord/core/pitch';
import { Store } from '@ngrx/store';
import { Live } from '../live/live';
import { URGENCY } from '../live/audio/recording-workers';
import { ScreenHands } from '../live/hands/screen-hands';
import { Editing } from '../state/editing/editing';
import { libraryEdits } from '../state/editing/library-edits';
import { BringingIn, type FileToBring } from '../state/recordings/bringing-in';
import { Outlines } from '../state/recordings/outlines';
import { selectRecordingList, selectRecordingsById } from '../state/recordings/selectors';
import { SoundMaking } from '../state/recordings/sound-making';
import type { AppState } from '../state/reducers';
import {
  selectDevices,
  selectKeyboard,
  selectMiddleC,
  selectRig,
  selectThings,
} from '../state/selectors';
import { Auditioning } from '../state/session/auditioning';
import { StatusLine } from '../state/session/status-line';
import { Dialogs } from '../ui/dialogs/dialogs';
import { PlayableKeyboard } from '../ui/keyboard/keyboard';
import { NameField } from '../ui/names/name-field';
import { NumberField } from '../ui/numbers/number-field';
import { BroughtLines } from '../ui/recordings/brought-lines';
import { partByPart } from '../ui/part-by-part';
import { DropFiles } from '../ui/recordings/drop-files';
import { FileButtons } from '../ui/recordings/file-buttons';
import { Outline } from '../ui/recordings/outline';
import { saveFile } from '../ui/files/save-file';
import type { LaidOut, LayOutData } from './lay-out-dialog';
import type { SwapData } from './swap-dialog';
import { Wave, type WaveMoved } from './wave';
import { WhatSounded } from './what-sounded';
import { ZoneChart, type ZonesMoved } from './zone-chart';
import { ZoneEditing } from './zone-editing';
import { ZoneLedger } from './zone-ledger';
import { ZonePanel } from './zone-panel';
import { remarkInWords, soundedInWords } from './zone-words';

/** Remarks that are told; the others are counted. */
const MOST_TOLD = 2;

/** The zone chart: a sound of recordings, laid out over keys and velocities, heard while it is looked at. */
@Component({
  selector: 'pc-mapping-view',
  imports: [
    BroughtLines,
    DropFiles,
    FileButtons,
    MatButtonModule,
    MatFormFieldModule,
    MatInputModule,
    MatMenuModule,
    MatSelectModule,
    NameField,
    NumberField,
    Outline,
    PlayableKeyboard,
    Wave,
    ZoneChart,
    ZoneLedger,
    ZonePanel,
  ],
  providers: [ZoneEditing, WhatSounded],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './mapping-view.html',
  styleUrl: './mapping-view.scss',
})
export class MappingView {
  /** Of the address. */
  readonly soundId = input.required<string>();
  private readonly store = inject<Store<AppState>>(Store);
  private readonly router = inject(Router);
  private readonly live = inject(Live);
  private readonly dialogs = inject(Dialogs);
  private readonly status = inject(StatusLine);
  private readonly door = inject(Editing);
  private readonly outlines = inject(Outlines);
  private readonly making = inject(SoundMaking);
  private readonly auditioning = inject(Auditioning);
  protected readonly hands = inject(ScreenHands);
  protected readonly bringing = inject(BringingIn);
  protected readonly editing = inject(ZoneEditing);
  protected readonly sounded = inject(WhatSounded);
  protected readonly recordings = this.store.selectSignal(selectRecordingsById);
  private readonly all = this.store.selectSignal(selectRecordingList);
  private readonly things = this.store.selectSignal(selectThings);
  private readonly devices = this.store.selectSignal(selectDevices);
  private readonly rig = this.store.selectSignal(selectRig);
  protected readonly keyboard = this.store.selectSignal(selectKeyboard);
  protected readonly middleC = this.store.selectSignal(selectMiddleC);
  protected readonly categories = SOUND_CATEGORIES;
  protected readonly parts = partByPart(6);
  protected readonly audio = signal<PlayableAudio | null>(null);

  protected readonly own = computed((): Recording[] => {
    const sound = this.editing.sound();
    const known = this.recordings();
    return sound
      ? recordingsOfSound(sound).flatMap((id) => {
          const one = known[id];
          return one ? [one] : [];
        })
      : [];
  });
  protected readonly named = computed(() => this.making.middleC(this.own()));
  protected readonly list = computed(() =>
    this.own().map((recording) => ({
      recording,
      name: shortName(recording),
      about: `${recording.heard.pitch ? noteName(recording.heard.pitch.key, this.middleC()) : 'no pitch'} · ${recording.heard.lufs.toFixed(1).replace('-', '−')}`,
    })),
  );
  protected readonly remarks = computed((): readonly ZoneRemark[] => {
    const sound = this.editing.sound();
    return sound ? zoneRemarks(sound.origin, this.recordings()) : [];
  });
  protected readonly silent = computed(() =>
    this.remarks().flatMap((remark) => (remark.kind === 'silent' ? [remark.ground] : [])),
  );
  /** The first two are told, and how many there are besides. */
  protected readonly told = computed(() =>
    this.remarks()
      .slice(0, MOST_TOLD)
      .map((remark) => ({ remark, ...remarkInWords(remark, this.middleC()) })),
  );
  protected readonly keys = computed(() => {
    const zones = this.editing.zones();
    const { low, high } = this.making.keys();
    if (zones.length === 0) return { low, high };
    const extent = extentOf(zones);
    return { low: Math.min(low, Math.max(extent.low, 0)), high: Math.max(high, extent.high) };
  });
  protected readonly about = computed(() => {
    const { length } = this.own();
    const zones = this.editing.zones();
    const roots = new Set(zones.map(({ root }) => root)).size;
    const bytes = this.own().reduce((sum, one) => sum + memoryOfRecording(one), 0);
    return `${length} recordings · ${roots} notes, ${zones.length} zones · ${(bytes / 1e6).toFixed(1)} MB`;
  });
  /** Songs whose patches play the sound, and what is kept with it. */
  protected readonly users = computed(() => {
    const { patches, songs, keepsakes } = this.things();
    const id = this.soundId();
    const playing = Object.values(patches)
      .filter((patch) => patch.sounds.some(({ librarySoundId }) => librarySoundId === id))
      .map((patch) => songs[patch.songId]?.name ?? patch.name);
    const kept = Object.values(keepsakes)
      .filter((keepsake) => soundsOfKeepsake(keepsake).includes(id))
      .map(({ name }) => `“${name}” in my sounds`);
    return [...new Set([...playing, ...kept])];
  });
  protected readonly primaryRecording = computed(
    () => this.recordings()[this.editing.primary()?.recordingId ?? ''] ?? null,
  );
  protected readonly note = computed(
    () => this.sounded.notes().find(({ isHeld }) => isHeld) ?? null,
  );
  protected readonly heard = computed(() =>
    this.sounded
      .notes()
      .map((note) => ({ note, words: soundedInWords(note, this.recordings(), this.middleC()) })),
  );
  protected readonly velocityOf = computed(() => {
    const keyboard = this.keyboard();
    const device = keyboard ? this.rig().ids.indexOf(keyboard.id) : -1;
    return (key: number) => (device < 0 ? 0 : this.live.player.velocityOf(device, key));
  });
  /** Where in the chosen recording a note of it is now. */
  protected readonly playing = (): number | null => {
    const zone = this.editing.primary();
    const audio = this.audio();
    const [note] = this.sounded.notes();
    const sounding = note?.zones.find((one) => one.zone.id === zone?.id);
    if (!zone || !audio || !note || !sounding || (!note.isHeld && !zone.oneShot)) return null;
    const gone = (performance.now() / 1000 - note.at) * 2 ** (sounding.cents / 1200);
    return placeAfter(zone, gone, audio.left.length / audio.sampleRate);
  };

  constructor() {
    effect(() => this.editing.soundId.set(this.soundId()));
    // Whatever changes of the sound is heard at once.
    effect(() => {
      const sound = this.editing.sound();
      if (!sound) return;
      this.live.showSounds.fetchAll([sound]);
      this.sounded.begin();
    });
    effect(() => {
      const there = this.editing.sound() !== null;
      untracked(() =>
        this.auditioning.listenTo(there ? newPatchSound('audition', this.soundId()) : null),
      );
    });
    effect(() => {
      const recordingId = this.editing.primary()?.recordingId;
      untracked(() => void this.look(recordingId ?? null));
    });
    const stop = this.sounded.listen();
    inject(DestroyRef).onDestroy(() => {
      stop();
      this.auditioning.listenTo(null);
    });
  }

  private async look(recordingId: string | null): Promise<void> {
    const audio = recordingId ? await this.live.sounds.recorded.audio(recordingId) : null;
    if (this.editing.primary()?.recordingId === (recordingId ?? undefined)) this.audio.set(audio);
  }

  protected outlineOf(id: string): Int8Array | null {
    return this.outlines.of(id);
  }

  protected move({ changes, words, gesture }: ZonesMoved): void {
    this.editing.change(changes, words, gesture);
  }

  protected moveWave({ changes, gesture }: WaveMoved): void {
    const zone = this.editing.primary();
    if (zone) this.editing.change({ [zone.id]: changes }, 'wave changed', gesture);
  }

  /** Chooses the zones of a recording. */
  protected chooseRecording(id: string): void {
    const zones = this.editing.zones().filter(({ recordingId }) => recordingId === id);
    this.editing.select(new Set(zones.map((zone) => zone.id)));
  }

  protected mend({ mend }: ZoneRemark): void {
    if (!mend) return;
    const words = mend.words === 'stretch' ? 'zones stretched over silence' : 'steps smoothed';
    this.editing.change(mend.changes, words);
  }

  protected point({ zoneIds }: ZoneRemark): void {
    this.editing.select(new Set(zoneIds));
  }

  protected smooth(): void {
    const changes = smoothing(this.editing.zones(), this.recordings());
    if (Object.keys(changes).length === 0)
      this.status.say('Every step in loudness is below 1.5 dB already.');
    else this.editing.change(changes, 'steps smoothed');
  }

  protected rename(name: string): void {
    this.door.do(libraryEdits.soundDescribed({ soundId: this.soundId(), changes: { name } }));
  }

  protected shelve(category: SoundCategory): void {
    this.door.do(libraryEdits.soundDescribed({ soundId: this.soundId(), changes: { category } }));
  }

  protected setDynamics({ value, gesture }: { value: number; gesture: string }): void {
    this.door.do(
      libraryEdits.dynamicsChanged({ soundId: this.soundId(), dynamics: value, gesture }),
    );
  }

  /** What is dropped finds its place in what is there. */
  protected async take(files: readonly FileToBring[]): Promise<void> {
    const taken = await this.bringing.bring(files);
    const recordings = taken.filter(({ id }) => !this.own().some((one) => one.id === id));
    if (recordings.length === 0) return;
    const known = {
      ...this.recordings(),
      ...Object.fromEntries(recordings.map((one) => [one.id, one])),
    };
    const laying = {
      recordings,
      middleC: this.making.middleC([...this.own(), ...recordings]),
      newId: () => crypto.randomUUID(),
    };
    const { zones, leftOut } = joined(this.editing.zones(), laying, known, 'byLoudness');
    this.editing.lay(zones, 'recordings added');
    const names = leftOut.map(shortName).join(', ');
    this.status.say(
      leftOut.length > 0
        ? `No place was found for ${names}, since nothing tells their key. Lay them out by “Lay out…”.`
        : `${recordings.length} recordings found their places.`,
    );
  }

  protected async layOut(): Promise<void> {
    const { LayOutDialog } = await import('./lay-out-dialog');
    const data: LayOutData = {
      recordings: this.own(),
      keys: this.making.keys(),
      pads: this.devices().flatMap((device) =>
        device.kind === 'controlBox' ? device.padNotes : [],
      ),
      named: this.named(),
      middleC: this.middleC(),
    };
    const laid = await this.dialogs.open<LayOutData, LaidOut>(LayOutDialog, {
      data,
      width: '620px',
    });
    if (laid) this.editing.lay(laid.zones, laid.words, laid.dynamics);
  }

  protected async swap(zones: readonly SampleZone[]): Promise<void> {
    const { SwapDialog } = await import('./swap-dialog');
    const data: SwapData = {
      ...{
        zones,
        known: this.recordings(),
        recordings: this.all(),
        named: this.named(),
        chosen: [],
      },
    };
    const changes = await this.dialogs.open<SwapData, Parameters<ZoneEditing['change']>[0]>(
      SwapDialog,
      {
        ...{ data, width: '560px' },
      },
    );
    if (changes) this.editing.change(changes, 'recordings swapped');
  }

  /** Hands the recordings out as WAV files with their zones, in one archive. */
  protected async takeOut(): Promise<void> {
    const sound = this.editing.sound();
    if (!sound) return;
    try {
      const { archive } = await this.live.sounds.recorded.workers.ask(
        { kind: 'pack', origin: sound.origin, recordings: this.own() },
        URGENCY.wanted,
      );
      saveFile(`${sound.name}.zip`, archive, 'application/zip');
    } catch (error) {
      this.status.say(
        `Nothing was written: ${error instanceof Error ? error.message : 'it failed'}.`,
      );
    }
  }

  /** Takes the sound from the library, if nothing plays it. */
  protected async remove(): Promise<void> {
    if (this.users().length > 0) {
      this.status.say(`It stays, since it is played in ${this.users().join(', ')}.`);
      return;
    }
    this.door.do(libraryEdits.librarySoundRemoved({ soundId: this.soundId() }));
    await this.router.navigateByUrl('/library/sounds');
  }
}
