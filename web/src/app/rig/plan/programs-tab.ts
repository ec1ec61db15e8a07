import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';
import { MatTableModule } from '@angular/material/table';
import { readPrograms, soundsOfPrograms, type NamedProgram } from '@pentachord/core/library';
import type { SoundModule } from '@pentachord/core/model';
import { Store } from '@ngrx/store';
import Papa from 'papaparse';
import { RigEditing } from '../../state/editing/rig-editing';
import type { AppState } from '../../state/reducers';
import { selectSounds } from '../../state/selectors';
import { PastedList } from '../../ui/files/pasted-list';

/** Lines that are shown; the others are counted. */
const MOST_SHOWN = 60;

/** Names the programs of a sound module by a list, and puts them into the sounds. */
@Component({
  selector: 'pc-programs-tab',
  imports: [
    MatButtonModule,
    MatButtonToggleModule,
    MatFormFieldModule,
    MatSelectModule,
    MatTableModule,
    PastedList,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './programs-tab.html',
  styleUrl: './programs-tab.scss',
})
export class ProgramsTab {
  readonly device = input.required<SoundModule>();
  readonly labels = input.required<readonly string[]>();

  private readonly editing = inject(RigEditing);
  private readonly sounds = inject<Store<AppState>>(Store).selectSignal(selectSounds);
  protected readonly columns = ['bank', 'program', 'name'];
  protected readonly list = signal('');
  protected readonly firstProgram = signal<0 | 1>(1);
  protected readonly channel = signal(1);
  private readonly read = computed(() => {
    const { data } = Papa.parse<string[]>(this.list().trim(), { skipEmptyLines: false });
    return readPrograms(this.list().trim() === '' ? [] : data, this.firstProgram());
  });
  /** Programs that no sound plays yet on that channel. */
  protected readonly fresh = computed((): NamedProgram[] => {
    const own = new Set(
      [...this.sounds().values()].flatMap(({ origin }) =>
        origin.kind === 'outside' && origin.place === this.device().place
          ? [keyOf(origin.channel, origin)]
          : [],
      ),
    );
    return this.read().programs.filter((one) => !own.has(keyOf(this.channel(), one)));
  });
  protected readonly lines = computed(() => {
    const { programs, odd } = this.read();
    const lines = [
      ...odd.map(({ line, text, why }) => ({
        ...{ bank: `line ${line}`, program: '', odd: true },
        name: `${why}: ${text}`,
      })),
      ...programs.map(({ bank, program, name }) => ({
        bank: bank ? `${bank.msb} ${bank.lsb}` : '—',
        program: String(program + this.firstProgram()),
        ...{ name, odd: false },
      })),
    ];
    return lines.slice(0, MOST_SHOWN);
  });
  protected readonly told = computed(() => {
    const { programs, odd } = this.read();
    if (programs.length + odd.length === 0) return '';
    const known = programs.length - this.fresh().length;
    const notRead = odd.length > 0 ? ` ${odd.length} lines were not: they stand first.` : '';
    const there = known > 0 ? ` ${known} are among the sounds already.` : '';
    return `${programs.length} programs were understood.${notRead}${there}`;
  });

  protected take(): void {
    const { place } = this.device();
    const newId = () => crypto.randomUUID();
    this.editing.addSounds(soundsOfPrograms(this.fresh(), place, this.channel(), newId));
  }
}

function keyOf(channel: number, { bank, program }: Pick<NamedProgram, 'bank' | 'program'>): string {
  return JSON.stringify([channel, bank, program]);
}
