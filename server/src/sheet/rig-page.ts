import type { SheetRig } from '@pentachord/core/exchange';
import type { Content } from './pdf-types.js';
import { drawing, drawnWords, fitting, ruled, text, type PageSize } from './page-parts.js';

/** The rig for whoever sets it up: what stands where, with ports and channels. */
export function rigPage(rig: SheetRig, page: PageSize): Content[] {
  const { scale } = page;
  const size = 10.5 * scale;
  const heads = ['', 'place', 'has', 'port', 'channels'];
  return [
    text(rig.name, { bold: true, fontSize: 20 * scale, margin: [0, 0, 0, 10] }),
    planOfStage(rig, page),
    ruled(
      [
        heads.map((head) => text(head, { fontSize: size })),
        ...rig.devices.map(({ name, place, has, port, channels }) => [
          text(name, { bold: true, fontSize: size }),
          ...[place, has, port, channels].map((words) => text(words, { fontSize: size })),
        ]),
      ],
      ['*', 'auto', 'auto', 'auto', 'auto'],
      1,
    ),
    ...(rig.channels.length > 0
      ? [
          text(
            `Channels: ${rig.channels.map(({ channel, label }) => `${channel} ${label}`).join(' · ')}`,
            { fontSize: size, margin: [0, 12, 0, 0] },
          ),
        ]
      : []),
  ];
}

function planOfStage({ devices, stage }: SheetRig, { width, scale }: PageSize): Content {
  const share = Math.min(width / stage.width, 300 / stage.depth);
  const size = 8 * scale;
  const shapes = devices.flatMap(({ name, at }) => {
    const [x, y, wide, deep] = [at.x, at.y, at.width, at.depth].map((cm) => cm * share);
    // Beside what is too narrow for its name.
    const inside = wide >= 60;
    const words = drawnWords(fitting(name, inside ? wide : 60, size), {
      x: x + (inside ? 3 : wide + 3),
      y: y + size + 2,
      size,
    });
    return [
      `<rect x="${x}" y="${y}" width="${wide}" height="${deep}" fill="white" stroke="black" stroke-width="0.9"/>${words}`,
    ];
  });
  const height = stage.depth * share;
  const frame = `<rect x="0.5" y="0.5" width="${stage.width * share - 1}" height="${height - 1}" fill="white" stroke="#aaaaaa" stroke-width="0.5"/>`;
  const audience = drawnWords('audience ↑', {
    x: stage.width * share - 52 * scale,
    y: size + 3,
    size,
  });
  return {
    stack: [drawing(stage.width * share, height, [frame, audience, ...shapes])],
    margin: [0, 0, 0, 12],
  };
}
