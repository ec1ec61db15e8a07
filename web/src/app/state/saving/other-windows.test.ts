import { firstValueFrom, take, toArray } from 'rxjs';
import { expect, it } from 'vitest';
import { OtherWindows } from './other-windows';

it('hears what other windows have saved, never itself, and passes over what is no such word', async () => {
  const [here, there] = [new OtherWindows(), new OtherWindows()];
  const heard = firstValueFrom(here.saved.pipe(take(2), toArray()));
  here.tell({ kind: 'patches', id: 'mine' });
  there.tell({ kind: 'nonsense', id: 3 } as never);
  there.tell({ kind: 'patches', id: 'theirs' });
  here.tell({ kind: 'songs', id: 'mine-too' });
  there.tell({ kind: 'songs', id: 'theirs-too' });
  expect(await heard).toEqual([
    { kind: 'patches', id: 'theirs' },
    { kind: 'songs', id: 'theirs-too' },
  ]);
});
