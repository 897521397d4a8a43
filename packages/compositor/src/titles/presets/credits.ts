import type { TitlePreset } from '../presets'

export const credits: readonly TitlePreset[] = [
  {
    id: 'rollPlain',
    name: 'Rolling credits',
    text:
      'A film by\nAda Merrow\n\nLanterns\nThe school at Marrow Quay\n\nMusic\nNight song, from the ' +
      'shelf\n\nThanks to\nevery boat that came',
    style: { font: 'Hanken Grotesk', size: 56, weight: 500, lineSpacing: 140, travel: 'roll' },
    seconds: 12,
  },
  {
    id: 'rollSerif',
    name: 'Rolling, in serif',
    text:
      'A film by\nAda Merrow\n\nLanterns\nThe school at Marrow Quay\n\nMusic\nNight song, from the ' +
      'shelf\n\nThanks to\nevery boat that came',
    style: { font: 'EB Garamond', size: 66, weight: 500, lineSpacing: 135, colour: '#f6e7c8', travel: 'roll' },
    seconds: 12,
  },
  {
    id: 'rollColumns',
    name: 'Rolling, at the left',
    text:
      'A film by\nAda Merrow\n\nLanterns\nThe school at Marrow Quay\n\nMusic\nNight song, from the ' +
      'shelf\n\nThanks to\nevery boat that came',
    style: { font: 'Nunito', size: 54, weight: 600, lineSpacing: 140, align: 'left', travel: 'roll' },
    at: [0.3, 0.5],
    seconds: 12,
  },
  {
    id: 'crawlPlain',
    name: 'Crawling line',
    text:
      'Lantern night at Marrow Quay — every year on the last Friday of September — bring paper, a ' +
      'candle, and someone you like',
    style: { font: 'Archivo', size: 56, weight: 600, box: 80, boxColour: '#0b0810', travel: 'crawl' },
    at: [0.5, 0.92],
    seconds: 14,
  },
  {
    id: 'creditCard',
    name: 'Credit card',
    text: 'filmed and cut by\nAda Merrow',
    style: { font: 'Outfit', size: 80, weight: 600, lineSpacing: 130 },
    runs: [{ from: 0, to: 17, style: { size: 44, weight: 300, colour: '#cfc4dc' } }],
    in: { move: 'fade', seconds: 0.7, unit: 'line' },
    out: { move: 'fade', seconds: 0.5 },
    seconds: 3,
  },
]
