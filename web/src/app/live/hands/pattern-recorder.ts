import { inject, Injectable } from '@angular/core';
import { barBeats } from '@pentachord/core/clock';
import { NOTE_OFF, NOTE_ON } from '@pentachord/core/midi';
import { PatternTake } from '@pentachord/core/patterns';
import type { Beats, Seconds } from '@pentachord/core/units';
import { Live } from '../live';

/** How a pattern is recorded. */
export interface RecordingManner {
  /** Whole bars that go round; null where the length is found when it is stopped. */
  bars: number | null;
  /** Bars that are counted before it begins. */
  countIn: number;
  /** Clicks on while it is recorded. */
  clicks: boolean;
}

/** What it does: nothing, counts before it begins, or records. */
export type RecorderState = 'rests' | 'countsIn' | 'records';

/** Listens to the keyboards on the show’s clock, and makes a take of what they play. */
@Injectable({ providedIn: 'root' })
export class PatternRecorder {
  private readonly live = inject(Live);
  /** What has been recorded; null before it is begun. */
  take: PatternTake | null = null;
  /** The beat of the clock that the take calls its first. */
  private first: Beats = 0;
  private isOn = false;
  private endListening: () => void = () => undefined;
  /** Told when the take has other notes than before. */
  onNotes: () => void = () => undefined;

  get state(): RecorderState {
    if (!this.isOn) return 'rests';
    return this.toGo > 0 ? 'countsIn' : 'records';
  }

  /** Beats until it takes what is played; 0 and less once it does. */
  get toGo(): Beats {
    return (this.take?.beginsAt ?? 0) - this.beat;
  }

  /** Beats since the first of the take. */
  get beat(): Beats {
    return this.live.player.clock.beats - this.first;
  }

  /** The beat of the clock from which on what was recorded is heard: with the second round, or at once where it is played over. */
  soundsFrom: Beats = 0;

  /** Begins anew; with `over` what is there is kept, and played over. */
  begin({ bars, countIn, clicks }: RecordingManner, over = false): void {
    this.stop();
    this.live.onTheClock(() => {
      const { clock } = this.live.player;
      const { timekeeping } = this.live;
      const bar = barBeats(clock.metre);
      const before = over ? this.take : null;
      before?.beginOver();
      this.take = before ?? new PatternTake(bars, bar);
      clock.join();
      // Whoever leads counts its own bars.
      const first = timekeeping.leading.isFree
        ? this.countIn(countIn * bar)
        : clock.barFrom(clock.beats + countIn * bar);
      // What is there was played in rounds that are past.
      this.first = first - (before?.beginsAt ?? 0);
      this.soundsFrom = before ? first : first + (this.take.length ?? 0);
      timekeeping.metronome.clickUntil(clicks ? Infinity : first);
      this.isOn = true;
      this.listen();
    });
  }

  private countIn(beats: Beats): Beats {
    const { clock } = this.live.player;
    clock.countIn(beats);
    return clock.firstBeat;
  }

  /** Ends it; what is held ends with it. */
  stop(): void {
    if (!this.isOn) return;
    const { beat } = this;
    this.isOn = false;
    this.endListening();
    this.live.timekeeping.metronome.stop();
    this.live.player.clock.leave();
    this.take?.stop(Math.max(0, beat));
    this.onNotes();
  }

  /** Takes the last pass back. */
  undo(): void {
    if (this.take?.undoPass()) this.onNotes();
  }

  private listen(): void {
    const { host, band, runner } = this.live;
    /** Keys that are down, as they are heard, by where they are struck. */
    const down = new Map<number, number>();
    let struck = -1;
    let at: Seconds = 0;
    const endTap = host.tap((time, _port, device, status, data1, data2) => {
      const kind = status & 0xf0;
      if (device < 0 || (kind !== NOTE_ON && kind !== NOTE_OFF)) return;
      const place = device * 128 + data1;
      at = time;
      if (kind === NOTE_ON && data2 > 0) {
        struck = place;
        return;
      }
      const key = down.get(place);
      if (key === undefined) return;
      down.delete(place);
      this.take?.release(key, this.beatAt(time));
      this.onNotes();
    });
    // The same stroke, as the layers hear it.
    const endKeys = host.listenToKeys((key, velocity) => {
      const device = Math.floor(struck / 128);
      if (struck < 0 || band.takes(device, key)) return;
      const layer = runner.current?.layers.at(0);
      const sounding = key + (layer ? layer.shift - layer.source.transpose : 0);
      if (sounding < 0 || sounding > 127) return;
      down.set(struck, sounding);
      this.take?.press(sounding, velocity, this.beatAt(at));
    });
    this.endListening = () => {
      endTap();
      endKeys();
    };
  }

  /** The beat that a hand meant that played with what it heard, which is late by what the sound takes on its way out. */
  private beatAt(time: Seconds): Beats {
    return this.live.player.clock.beatsAt(time - this.live.audio.latency) - this.first;
  }
}
