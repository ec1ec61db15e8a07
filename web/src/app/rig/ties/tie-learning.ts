import { computed, inject, Injectable, signal } from '@angular/core';
import { channelOf, CONTROL_CHANGE } from '@pentachord/core/midi';
import {
  isControlMessage,
  isStruck,
  sameMessage,
  sentAt,
  type ControlMessage,
  type Place,
  type Reads,
} from '@pentachord/core/model';
import { senderAt } from '@pentachord/core/rig';
import { FINE_FROM, guessedReading } from '@pentachord/core/ties';
import { Live } from '../../live/live';
import { TieEditing } from '../../state/editing/tie-editing';

/** A control that was touched, and how it seems to speak. */
export interface Touched {
  place: Place;
  message: ControlMessage;
  /** Null while that does not tell yet. */
  reads: Reads | null;
}

/** Values of a control that are listened to, to know how it speaks. */
const MOST_HEARD = 32;

/** Waits for a control to be touched, and goes on listening to how it speaks; what it is used for meanwhile rests. */
@Injectable()
export class TieLearning {
  private readonly live = inject(Live);
  private readonly editing = inject(TieEditing);
  private readonly touch = this.live.touchWait<true>();
  readonly waiting = computed(() => this.touch.waiting() !== null);
  readonly touched = signal<Touched | null>(null);
  private values: number[] = [];

  /** Waits for a control; asked again it waits no more. */
  wait(): void {
    this.forget();
    this.touch.begin(true, () => this.listen());
  }

  private listen(): () => void {
    const { host } = this.live;
    const listening = host.listenToControls((place, message) => {
      if (!isControlMessage(message)) return false;
      const known = this.touched();
      if (!known) this.take(place, message);
      return !known || (known.place === place && sameMessage(known.message, message));
    });
    const tapping = host.tap((_time, _port, device, status, data1, data2) => {
      this.hear(device, status, data1, data2);
    });
    return () => {
      listening();
      tapping();
    };
  }

  stop(): void {
    this.touch.stop();
    this.forget();
  }

  private forget(): void {
    this.touched.set(null);
    this.values = [];
  }

  private take(place: Place, message: ControlMessage): void {
    this.touch.found();
    this.touched.set({ place, message, reads: null });
  }

  private hear(device: number, status: number, data1: number, data2: number): void {
    const touched = this.touched();
    if ((status & 0xf0) !== CONTROL_CHANGE || channelOf(status) < 1) return;
    if (!touched) {
      // The tap hears a message before it is learnt: it is the first of its control.
      this.values = [data2];
      return;
    }
    const devices = this.editing.devices();
    const sent = sentAt(touched, devices)?.sent;
    if (!sent || senderAt(devices, touched.place) !== device || isStruck(touched.message)) return;
    if (data1 === sent.number + FINE_FROM && sent.number < FINE_FROM) this.reads('fine');
    else if (data1 === sent.number && touched.reads !== 'fine') {
      this.values = [...this.values, data2].slice(-MOST_HEARD);
      this.reads(guessedReading(this.values));
    }
  }

  private reads(reads: Reads | null): void {
    const touched = this.touched();
    if (touched && reads !== null && reads !== touched.reads)
      this.touched.set({ ...touched, reads });
  }
}
