import type { Performer } from '../choreography/script';
import type { Chance } from './chance';

const SKINS = ['#f0cdb4', '#e2b08f', '#c98f6b', '#a9714c', '#7d4f34', '#573624', '#402719'];
const HAIRS = ['#1d1512', '#3b2718', '#5d3f26', '#8f6b3f', '#c9a468', '#8b8680', '#7a2f1c'];
const CLOTHES = [
  '#a8402f',
  '#2e3a4f',
  '#d7d0bf',
  '#5a4634',
  '#3f6a58',
  '#1f2226',
  '#c9a24a',
  '#6b6f76',
  '#7d3c5c',
  '#e7e4dc',
  '#31507a',
  '#8a8f4e',
  '#b5653a',
];
const SHOES = ['#3a2a20', '#1b1b1d', '#e4e0d8', '#7a2c26', '#53606b'];

/** Draws clothes, hair and skin. */
export function drawLook({ of, maybe, between }: Chance): Partial<Performer['look']> {
  const skirt = maybe(0.16);
  const hairStyle = of(['short', 'short', 'short', 'long', 'long', 'bun', 'bald'] as const);
  return {
    shirt: of(CLOTHES),
    trousers: of(CLOTHES),
    shoes: of(SHOES),
    skin: of(SKINS),
    hair: of(HAIRS),
    cap: hairStyle === 'short' && maybe(0.3) ? of(CLOTHES) : null,
    pattern: of(['knit', 'plain', 'plain', 'stripes', 'checks', 'print'] as const),
    sleeves: of([1, 1, between(0.75, 0.95), between(0.25, 0.5), 0.12]),
    trouserLegs: skirt ? 0.25 : of([1, 1, 1, between(0.6, 0.9), between(0.3, 0.5)]),
    loose: maybe(0.4) ? between(0.3, 1) : 0,
    skirt: skirt ? between(0.4, 0.9) : 0,
    coat: !skirt && maybe(0.12) ? between(0.3, 0.6) : 0,
    hairStyle,
    barefoot: maybe(0.12),
  };
}
