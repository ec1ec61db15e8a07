import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  type ElementRef,
  inject,
  input,
  linkedSignal,
  output,
  viewChild,
} from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormBuilder, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatChipsModule } from '@angular/material/chips';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { searchShelf, shelf, type ShelfItem, type ShelfSearch } from '@pentachord/core/library';
import { loudnessAt } from '@pentachord/core/loudness';
import { isSampled, SOUND_CATEGORIES, type SoundCategory } from '@pentachord/core/model';
import { noteName } from '@pentachord/core/pitch';
import { Store } from '@ngrx/store';
import { Live } from '../../live/live';
import { ScreenHands } from '../../live/hands/screen-hands';
import { Auditioning } from '../../state/session/auditioning';
import { Editing } from '../../state/editing/editing';
import { edits } from '../../state/editing/edits';
import type { AppState } from '../../state/reducers';
import { selectBudget, selectMeasuredCosts, selectResponses } from '../../state/machine/selectors';
import {
  selectKeepsakes,
  selectKeyboard,
  selectMiddleC,
  selectRig,
  selectSounds,
  selectUses,
} from '../../state/selectors';
import { PlayableKeyboard } from '../keyboard/keyboard';

/** Velocity at which sounds are compared. */
const COMPARED_AT = 80;

/** Which items a browser offers. */
export type Offered = 'everything' | 'layers' | 'sounds';

/**
 * The shelf: search as you type, filter, favourites, and a keyboard to try a sound out before it is taken. Whatever is
 * projected into it stands under the facts of the chosen sound.
 */
@Component({
  selector: 'pc-sound-browser',
  imports: [
    MatButtonModule,
    MatChipsModule,
    MatFormFieldModule,
    MatInputModule,
    PlayableKeyboard,
    ReactiveFormsModule,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './sound-browser.html',
  styleUrl: './sound-browser.scss',
})
export class SoundBrowser {
  /** `layers`: no whole patches; `sounds`: no layers either. */
  readonly offered = input<Offered>('everything');
  /** Id of the item to begin with. */
  readonly current = input<string | null>(null);
  /** The chosen item, null before one is. */
  readonly selected = output<ShelfItem | null>();
  /** Taken by a double click or Enter. */
  readonly taken = output<ShelfItem>();

  private readonly store = inject<Store<AppState>>(Store);
  private readonly editing = inject(Editing);
  private readonly live = inject(Live);
  protected readonly hands = inject(ScreenHands);
  protected readonly auditioning = inject(Auditioning);
  private readonly box = viewChild.required<ElementRef<HTMLInputElement>>('words');
  private readonly sounds = this.store.selectSignal(selectSounds);
  private readonly keepsakes = this.store.selectSignal(selectKeepsakes);
  private readonly uses = this.store.selectSignal(selectUses);
  private readonly responses = this.store.selectSignal(selectResponses);
  private readonly costs = this.store.selectSignal(selectMeasuredCosts);
  private readonly budget = this.store.selectSignal(selectBudget);
  private readonly rig = this.store.selectSignal(selectRig);
  protected readonly keyboard = this.store.selectSignal(selectKeyboard);
  protected readonly middleC = this.store.selectSignal(selectMiddleC);

  protected readonly categories = SOUND_CATEGORIES;
  protected readonly form = inject(FormBuilder).nonNullable.group({
    words: '',
    only: [[] as ('favourites' | 'kept')[]],
    category: inject(FormBuilder).nonNullable.control<SoundCategory | 'all'>('all'),
  });
  private readonly typed = toSignal(this.form.valueChanges, { initialValue: this.form.value });
  private readonly search = computed((): ShelfSearch => {
    const { words = '', only, category = 'all' } = this.typed();
    return {
      words,
      category: category === 'all' ? null : category,
      favouritesOnly: only?.includes('favourites') ?? false,
      keptOnly: only?.includes('kept') ?? false,
    };
  });
  private readonly chosenId = linkedSignal(() => this.current());

  private readonly items = computed(() => {
    const offered = this.offered();
    return shelf(this.sounds(), this.keepsakes(), this.uses()).filter(({ keepsake }) => {
      if (!keepsake || offered === 'everything') return true;
      const { kind } = keepsake.content;
      return kind === 'sound' || (kind === 'layer' && offered === 'layers');
    });
  });
  protected readonly found = computed(() =>
    searchShelf(this.items(), this.search()).map((item) => ({ ...item, about: aboutOf(item) })),
  );
  protected readonly chosen = computed(
    () => this.items().find((item) => item.id === this.chosenId()) ?? null,
  );

  protected readonly octaves = computed(() => {
    const octaves = this.auditioning.octaves();
    return octaves > 0 ? `+${octaves}` : String(octaves).replace('-', '−');
  });
  protected readonly velocityOf = computed(() => {
    const keyboard = this.keyboard();
    const device = keyboard ? this.rig().ids.indexOf(keyboard.id) : -1;
    return (key: number) => (device < 0 ? 0 : this.live.player.velocityOf(device, key));
  });

  protected readonly facts = computed(() => {
    const item = this.chosen();
    if (!item) return null;
    const { sound } = item;
    const facts: { what: string; value: string }[] = [];
    if (sound) {
      const name = (note: number) => noteName(note, this.middleC());
      facts.push({
        what: 'made for',
        value: `${name(sound.lowestNote)}–${name(sound.highestNote)}`,
      });
      if (sound.origin.kind !== 'outside') {
        const response = this.responses().get(sound.id);
        const voice = this.costs().voices.get(sound.id);
        facts.push({
          what: `loudness at ${COMPARED_AT}`,
          value: response
            ? `${loudnessAt(response, COMPARED_AT).toFixed(1).replace('-', '−')} LUFS`
            : 'being measured',
        });
        facts.push({
          what: 'one voice costs',
          value:
            voice === undefined
              ? 'being measured'
              : `${((voice / this.budget()) * 100).toFixed(2)} % of the budget`,
        });
      } else facts.push({ what: 'comes from', value: 'an outside module' });
      if (sound.origin.kind === 'recordings')
        facts.push({ what: 'made of', value: `${sound.origin.zones.length} zones of recordings` });
    }
    facts.push({ what: 'in this show', value: item.uses > 0 ? `${item.uses} layers` : 'not yet' });
    return {
      name: item.name,
      about: aboutOf(item),
      facts: item.keepsake ? facts.slice(0, -1) : facts,
    };
  });

  constructor() {
    // Sounds of recordings are fetched when they are chosen: a shelf of them would fill the memory.
    this.live.showSounds.fetchAll([...this.sounds().values()].filter((sound) => !isSampled(sound)));
    inject(DestroyRef).onDestroy(() => this.auditioning.listenTo(null));
  }

  /** Puts the caret into the search box. */
  focus(): void {
    this.box().nativeElement.focus();
  }

  protected clear(): void {
    this.form.reset();
  }

  protected choose(item: ShelfItem): void {
    this.chosenId.set(item.id);
    if (item.sound) this.live.showSounds.fetchAll([item.sound]);
    this.auditioning.listenTo(item.sound ? item.played : null);
    this.selected.emit(item);
  }

  /** Arrow keys go through the list from the search box on; Enter takes. */
  protected step(event: KeyboardEvent): void {
    // What is typed here is no shortcut; Escape still closes the dialog around it.
    if (event.key !== 'Escape') event.stopPropagation();
    const by = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    const found = this.found();
    const chosen = this.chosen();
    if (by && found.length > 0) {
      event.preventDefault();
      const at = found.findIndex((item) => item.id === chosen?.id);
      this.choose(found[Math.min(found.length - 1, Math.max(0, at + by))]);
    } else if (event.key === 'Enter' && event.target === this.box().nativeElement) {
      // Nothing was pointed at: the first found is meant, if anything was looked for.
      const meant = found.find(({ id }) => id === chosen?.id) ?? found.at(0);
      event.preventDefault();
      if (meant) this.taken.emit(meant);
    }
  }

  protected favour(item: ShelfItem): void {
    const favourite = !item.favourite;
    this.editing.do(
      item.keepsake
        ? edits.keepsakeChanged({ keepsakeId: item.id, changes: { favourite } })
        : edits.soundFavoured({ librarySoundId: item.id, favourite }),
    );
  }
}

/** What there is to say of an item beside its name. */
function aboutOf({ category, tags, keepsake }: ShelfItem): string {
  return [keepsake ? null : category, ...tags].filter(Boolean).join(' · ');
}
