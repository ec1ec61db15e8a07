import { listensTo, type Layer } from '../model/patch/layer.js';
import { layerLetter, type Patch } from '../model/patch/patch.js';
import { heardChannel, isKeyboard, type Device, type Keyboard } from '../model/rig/rig.js';
import { channelInWords, lettersOf } from './channels.js';

/** What one click does about a remark: to devices, or to layers of the patch, by their ids. */
export interface RigMend {
  words: string;
  devices?: Readonly<Record<string, { heardAs?: number | null; channel?: number }>>;
  layers?: Readonly<Record<string, Partial<Pick<Layer, 'channel' | 'keyboards'>>>>;
}

/** Something that keeps keyboards and layers from finding one another. */
export interface RigRemark {
  id: string;
  kind: 'oneChannelTwice' | 'nobodySends' | 'nobodyHears' | 'onePortTwice' | 'sendsElsewhere';
  words: string;
  mends: readonly RigMend[];
}

/** On which channel a device was heard last, 1–16, by its id. */
export type ChannelsArrived = ReadonlyMap<string, number>;

const NOTHING_ARRIVED: ChannelsArrived = new Map();

/** What is odd about who sends and who listens, with one or several mends each. */
export function rigRemarks(
  devices: readonly Device[],
  patch: Patch | null,
  labels: readonly string[],
  arrived: ChannelsArrived = NOTHING_ARRIVED,
): RigRemark[] {
  const keyboards = devices.filter(isKeyboard);
  return [
    ...sendsElsewhere(devices, labels, arrived),
    ...twiceOnOne(keyboards, labels),
    ...(patch ? [...nobodySends(keyboards, patch, labels), ...nobodyHears(keyboards, patch)] : []),
  ];
}

/** Devices that send on another channel than is written of them. */
function sendsElsewhere(
  devices: readonly Device[],
  labels: readonly string[],
  arrived: ChannelsArrived,
): RigRemark[] {
  return devices.flatMap((device): RigRemark[] => {
    const channel = arrived.get(device.id);
    if (channel === undefined || !isSender(device) || device.channel === channel) return [];
    return [
      {
        ...{ id: `sendsElsewhere ${device.id}`, kind: 'sendsElsewhere' },
        words: `${device.name} sends on ${channelInWords(channel, labels)}; ${channelInWords(device.channel, labels)} is written of it`,
        mends: [writtenAs(device, channel)],
      },
    ];
  });
}

/** True for what sends notes or controllers on a channel of its own. */
function isSender(device: Device): device is Exclude<Device, { kind: 'module' | 'pedal' }> {
  return device.kind !== 'module' && device.kind !== 'pedal';
}

function writtenAs({ id, name }: Device, channel: number): RigMend {
  return { words: `write channel ${channel} of ${name}`, devices: { [id]: { channel } } };
}

/**
 * What can be done about a key whose channel no layer listens to, though layers listen to its keyboard: what is written of the
 * keyboard follows what it sends, or else the layers listen to any channel. Null where that is not the trouble.
 * @param channel 1–16, as it was heard
 */
export function mendOfOtherChannel(
  devices: readonly Device[],
  patch: Patch,
  deviceId: string,
  channel: number,
): RigMend | null {
  const keyboard = devices.filter(isKeyboard).find(({ id }) => id === deviceId);
  if (!keyboard) return null;
  const own = patch.layers.filter((layer) => listensTo(layer, keyboard));
  const hears = (layer: Layer, on: number) => layer.channel === 'any' || layer.channel === on;
  if (own.length === 0 || own.some((layer) => hears(layer, channel))) return null;
  const isAsWritten = keyboard.heardAs !== null || keyboard.channel === channel;
  if (!isAsWritten && own.some((layer) => layer.channel === keyboard.channel))
    return {
      words: `treat ${keyboard.name} as channel ${keyboard.channel}`,
      devices: { [keyboard.id]: { channel, heardAs: keyboard.channel } },
    };
  const letters = lettersOf(own.map((layer) => patch.layers.indexOf(layer)));
  return {
    words: `let ${letters} listen to any channel`,
    layers: Object.fromEntries(own.map(({ id }) => [id, { channel: 'any' as const }])),
  };
}

function twiceOnOne(keyboards: readonly Keyboard[], labels: readonly string[]): RigRemark[] {
  const remarks: RigRemark[] = [];
  keyboards.forEach((keyboard, at) => {
    const first = keyboards.slice(0, at).find((k) => heardChannel(k) === heardChannel(keyboard));
    if (!first) return;
    const channel = channelInWords(heardChannel(keyboard), labels);
    const names = `${first.name} and ${keyboard.name}`;
    // What comes on one port and channel is one keyboard to whoever hears it: no translation parts them.
    if (first.port === keyboard.port && first.channel === keyboard.channel)
      remarks.push({
        ...{ id: `onePortTwice ${keyboard.id}`, kind: 'onePortTwice', mends: [] },
        words: `${names} send on one port and channel: nothing can tell them apart. Give one of them another channel, or another port.`,
      });
    else {
      const free = freeChannel(keyboards);
      remarks.push({
        ...{ id: `oneChannelTwice ${keyboard.id}`, kind: 'oneChannelTwice' },
        words: `${names} are both heard on ${channel}: a layer that goes by channel hears both`,
        mends:
          free === null
            ? []
            : [
                {
                  words: `treat ${keyboard.name} as channel ${free}`,
                  devices: { [keyboard.id]: { heardAs: free === keyboard.channel ? null : free } },
                },
              ],
      });
    }
  });
  return remarks;
}

function freeChannel(keyboards: readonly Keyboard[]): number | null {
  for (let channel = 1; channel <= 16; channel++)
    if (!keyboards.some((k) => k.channel === channel || heardChannel(k) === channel))
      return channel;
  return null;
}

/** Layers that listen to a channel which no keyboard they listen to sends. */
function nobodySends(
  keyboards: readonly Keyboard[],
  patch: Patch,
  labels: readonly string[],
): RigRemark[] {
  const lonely = new Map<number, number[]>();
  patch.layers.forEach((layer, at) => {
    const { channel } = layer;
    if (channel === 'any' || layer.muted) return;
    const own = keyboards.filter((k) => listensTo(layer, k));
    if (own.length > 0 && !own.some((k) => heardChannel(k) === channel))
      lonely.set(channel, [...(lonely.get(channel) ?? []), at]);
  });
  return [...lonely].map(([channel, at]) => {
    const letters = lettersOf(at);
    const layers = at.map((index) => patch.layers[index]);
    const own = keyboards.filter((k) => layers.every((layer) => listensTo(layer, k)));
    const offered = own.length > 0 ? own : keyboards;
    return {
      ...{ id: `nobodySends ${channel}`, kind: 'nobodySends' as const },
      words: `No keyboard sends on ${channelInWords(channel, labels)}, where ${letters} of “${patch.name}” ${at.length > 1 ? 'listen' : 'listens'}`,
      mends: [
        {
          words: `let ${letters} listen to any channel`,
          layers: Object.fromEntries(layers.map(({ id }) => [id, { channel: 'any' as const }])),
        },
        ...offered.slice(0, 2).map((keyboard) => ({
          words: `treat ${keyboard.name} as channel ${channel}`,
          devices: { [keyboard.id]: { heardAs: channel === keyboard.channel ? null : channel } },
        })),
      ],
    };
  });
}

/** Keyboards that no layer of the patch hears. */
function nobodyHears(keyboards: readonly Keyboard[], patch: Patch): RigRemark[] {
  if (patch.layers.length === 0) return [];
  return keyboards.flatMap((keyboard): RigRemark[] => {
    const hears = (layer: Layer) =>
      listensTo(layer, keyboard) &&
      (layer.channel === 'any' || layer.channel === heardChannel(keyboard));
    if (patch.layers.some(hears)) return [];
    const [first] = patch.layers;
    const heardThen =
      first.keyboards === 'any' || listensTo(first, keyboard)
        ? first.keyboards
        : [...first.keyboards, keyboard.place];
    return [
      {
        ...{ id: `nobodyHears ${keyboard.id}`, kind: 'nobodyHears' },
        words: `No layer of “${patch.name}” hears ${keyboard.name}`,
        mends: [
          {
            words: `let ${layerLetter(0)} hear it`,
            layers: { [first.id]: { keyboards: heardThen, channel: 'any' } },
          },
        ],
      },
    ];
  });
}
