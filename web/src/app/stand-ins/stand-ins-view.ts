import { NgTemplateOutlet } from '@angular/common';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  signal,
} from '@angular/core';
import { FormBuilder, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import { MatSlideToggleModule } from '@angular/material/slide-toggle';
import { MatSliderModule } from '@angular/material/slider';
import { BEND_CENTRE, messageInWords, MidiParser, channelOf } from '@pentachord/core/midi';
import { plainManner, StandInKeyboard, StandInPadBox } from '@pentachord/core/stand-ins';
import type { ControlBox, Device, Keyboard, Pedal, SoundModule } from '@pentachord/core/model';
import { noteName } from '@pentachord/core/pitch';
import { MISBEHAVIOURS, settingInWords, type Misbehaviour } from '@pentachord/core/settings';
import { Store } from '@ngrx/store';
import { StandInCable } from '../live/ports/cable';
import { readStandIn, watchStandIns, writeStandIn } from '../live/ports/stand-in-memories';
import type { AppState } from '../state/reducers';
import { selectDevices, selectKeyboards, selectMiddleC } from '../state/selectors';
import { ClockStandIns } from './clock-stand-ins';
import { PlayableKeyboard } from '../ui/keyboard/keyboard';

/** Messages to the module that are shown. */
const MOST_SHOWN = 12;

/** The stand-ins: simulated keyboards, pads, pedals and a sound module, in a window of their own. */
@Component({
  selector: 'pc-stand-ins-view',
  imports: [
    ClockStandIns,
    MatButtonModule,
    MatFormFieldModule,
    MatInputModule,
    MatSelectModule,
    MatSliderModule,
    MatSlideToggleModule,
    NgTemplateOutlet,
    PlayableKeyboard,
    ReactiveFormsModule,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './stand-ins-view.html',
  styleUrl: './stand-ins-view.scss',
})
export class StandInsView {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly cable = new StandInCable();
  private readonly devices = this.store.selectSignal(selectDevices);
  protected readonly keyboards = this.store.selectSignal(selectKeyboards);
  protected readonly middleC = this.store.selectSignal(selectMiddleC);
  protected readonly boxes = computed(() =>
    this.devices().filter((d): d is ControlBox => d.kind === 'controlBox'),
  );
  protected readonly pedals = computed(() =>
    this.devices().filter((d): d is Pedal => d.kind === 'pedal'),
  );
  protected readonly modules = computed(() =>
    this.devices().filter((d): d is SoundModule => d.kind === 'module'),
  );
  private readonly keysDown = signal<ReadonlySet<string>>(new Set());
  protected readonly heard = signal<string[]>([]);
  protected readonly misbehaviours = MISBEHAVIOURS;
  /** What can send raw bytes. */
  protected readonly senders = computed(() => [...this.keyboards(), ...this.boxes()]);
  protected readonly raw = inject(FormBuilder).nonNullable.group({ port: '', bytes: '90 3C 64' });
  protected readonly rawProblem = signal('');

  /** Rises when a stand-in holds something else. */
  private readonly written = signal(0);
  private readonly pulledOut = signal<ReadonlySet<string>>(new Set());
  /** What each of them keeps, by port. */
  protected readonly stores = computed(() => {
    this.written();
    return new Map(
      this.senders().flatMap((device) => {
        const stored = readStandIn(device);
        return stored ? [[device.port, stored] as const] : [];
      }),
    );
  });
  private readonly keyboardParts = computed(
    () =>
      new Map(
        this.keyboards().map((k) => [
          k.id,
          new StandInKeyboard(
            this.stores().get(k.port)?.settings ?? plainManner(k.channel),
            k.lowestKey,
            k.highestKey,
          ),
        ]),
      ),
  );
  private readonly boxParts = computed(
    () =>
      new Map(
        this.boxes().flatMap((b) => {
          const stored = this.stores().get(b.port);
          return stored ? [[b.id, new StandInPadBox(stored.settings)] as const] : [];
        }),
      ),
  );

  constructor() {
    const parser = new MidiParser({
      message: (status, data1, data2) => {
        const name = (note: number) => noteName(note, this.middleC());
        const words = `ch ${channelOf(status)} ${messageInWords(status, data1, data2, name)}`;
        this.heard.update((lines) => [words, ...lines].slice(0, MOST_SHOWN));
      },
    });
    effect(() => {
      const first = this.senders().at(0);
      if (first && !this.raw.value.port) this.raw.patchValue({ port: first.port });
    });
    this.cable.listen((port, bytes) => {
      if (this.modules().some((module) => module.port === port)) parser.push(bytes);
    });
    const unwatch = watchStandIns(() => this.written.update((count) => count + 1));
    inject(DestroyRef).onDestroy(() => {
      unwatch();
      this.cable.close();
    });
  }

  /** What a stand-in behaves by, in words. */
  protected manner({ port }: Device): string {
    const settings = this.stores().get(port)?.settings;
    if (!settings) return '';
    const octave = settingInWords('octave', settings, this.middleC());
    const more = settings.padNotes.length > 0 ? '' : ` · octave ${octave} · ${settings.curve}`;
    return `sends on ${settings.sendsOn.join(' and ')}${more}`;
  }

  protected misbehave({ port }: Device, misbehaviour: Misbehaviour): void {
    const stored = this.stores().get(port);
    if (stored) writeStandIn(port, { ...stored, misbehaviour });
    this.written.update((count) => count + 1);
  }

  protected isPlugged({ port }: Device): boolean {
    return !this.pulledOut().has(port);
  }

  protected plug({ port }: Device, plugged: boolean): void {
    const pulledOut = new Set(this.pulledOut());
    if (plugged) pulledOut.delete(port);
    else pulledOut.add(port);
    this.pulledOut.set(pulledOut);
    this.cable.plug(port, plugged);
  }

  protected isDown(board: Keyboard): (key: number) => number {
    return (key) => (this.keysDown().has(`${board.id} ${key}`) ? 100 : 0);
  }

  protected press(board: Keyboard, key: number, velocity: number): void {
    this.keysDown.update((keys) => new Set(keys).add(`${board.id} ${key}`));
    this.cable.send(board.port, this.keyboardParts().get(board.id)?.press(key, velocity) ?? []);
  }

  protected release(board: Keyboard, key: number): void {
    this.keysDown.update((keys) => new Set([...keys].filter((k) => k !== `${board.id} ${key}`)));
    this.cable.send(board.port, this.keyboardParts().get(board.id)?.release(key) ?? []);
  }

  protected wheel(board: Keyboard, controller: number, value: number): void {
    const bytes = this.keyboardParts().get(board.id)?.control(controller, value) ?? [];
    this.cable.send(board.port, bytes);
  }

  protected bend(board: Keyboard, value: number): void {
    this.cable.send(board.port, this.keyboardParts().get(board.id)?.bend(value) ?? []);
  }

  /** The pitch wheel springs back when it is let go. */
  protected bendBack(board: Keyboard, wheel: { value: number }): void {
    wheel.value = BEND_CENTRE;
    this.bend(board, BEND_CENTRE);
  }

  protected strike(box: ControlBox, pad: number): void {
    this.cable.send(box.port, this.boxParts().get(box.id)?.strike(pad, 100) ?? []);
  }

  protected liftPad(box: ControlBox, pad: number): void {
    this.cable.send(box.port, this.boxParts().get(box.id)?.release(pad) ?? []);
  }

  protected turn(box: ControlBox, knob: number, value: number): void {
    this.cable.send(box.port, this.boxParts().get(box.id)?.turn(knob, value) ?? []);
  }

  protected tread(pedal: Pedal, value: number): void {
    const board = this.keyboards().find(
      (k) => k.port === pedal.port && k.channel === pedal.channel,
    );
    const part = board && this.keyboardParts().get(board.id);
    const bytes = part?.control(pedal.controller, value) ?? [
      0xb0 | (pedal.channel - 1),
      pedal.controller,
      value,
    ];
    this.cable.send(pedal.port, bytes);
  }

  /** Sends typed bytes as they are, broken or not, to see what the other end makes of them. */
  protected sendRaw(): void {
    const { port, bytes: text } = this.raw.getRawValue();
    const words = text
      .trim()
      .split(/[\s,]+/)
      .filter(Boolean);
    const bytes = words.map((word) => (/^[0-9a-f]{1,2}$/i.test(word) ? parseInt(word, 16) : NaN));
    const bad = words.find((_, i) => Number.isNaN(bytes[i]));
    this.rawProblem.set(
      bad === undefined
        ? ''
        : `“${bad}” is not a byte. Type two hex digits each, such as 90 3C 64.`,
    );
    if (bad === undefined) this.cable.send(port, bytes);
  }
}
