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
import { MatSliderModule } from '@angular/material/slider';
import {
  BEND_CENTRE,
  messageInWords,
  MidiParser,
  StandInKeyboard,
  StandInPadBox,
  channelOf,
} from '@pentachord/core/midi';
import type { ControlBox, Keyboard, Pedal, SoundModule } from '@pentachord/core/model';
import { noteName } from '@pentachord/core/pitch';
import { Store } from '@ngrx/store';
import { StandInCable } from '../live/ports/cable';
import type { AppState } from '../state/reducers';
import { selectDevices, selectKeyboards, selectMiddleC } from '../state/selectors';
import { ClockStandIns } from './clock-stand-ins';
import { PlayableKeyboard } from '../ui/keyboard/keyboard';

/** Messages to the module that are shown. */
const MOST_SHOWN = 6;

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
  /** What can send raw bytes. */
  protected readonly senders = computed(() => [...this.keyboards(), ...this.boxes()]);
  protected readonly raw = inject(FormBuilder).nonNullable.group({ port: '', bytes: '90 3C 64' });
  protected readonly rawProblem = signal('');

  private readonly keyboardParts = computed(
    () =>
      new Map(
        this.keyboards().map((k) => [
          k.id,
          new StandInKeyboard(k.channel, k.lowestKey, k.highestKey),
        ]),
      ),
  );
  private readonly boxParts = computed(
    () =>
      new Map(
        this.boxes().map((b) => [
          b.id,
          new StandInPadBox(b.channel, b.padNotes, b.knobControllers),
        ]),
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
    inject(DestroyRef).onDestroy(() => this.cable.close());
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
