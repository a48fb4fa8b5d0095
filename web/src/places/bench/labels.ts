// The unit of an input is in its name; what is left of the name is its label.
const ENDINGS = [
  '_cm3_min',
  '_n_mm2',
  '_um_n',
  '_mm_s2',
  '_mm_s3',
  '_m_min',
  '_mm_min',
  '_mm',
  '_deg',
  '_kw',
  '_nm',
  '_um',
  '_kg',
  '_s',
  '_n',
  '_percent',
  '_min',
]
const WHOLE: Record<string, string> = {
  kc11_n_mm2: 'kc1.1',
  mc: 'mc',
  rpm: 'Speed',
  max_rpm: 'Largest speed',
  release_rpm: 'Lets go at',
  mrr_cm3_min: 'Removal',
  rt_um: 'Rt',
  per_load: 'Parts a load',
  limited_by: 'Limited by',
  equal: 'Equal',
}

export function labelOf(name: string): string {
  if (WHOLE[name]) return WHOLE[name]
  const ending = ENDINGS.find((each) => name.endsWith(each))
  const words = (ending ? name.slice(0, -ending.length) : name)
    .replaceAll('_', ' ')
    .replace(/^max /, 'largest ')
    .replace(/^min /, 'least ')
    .replace(/ per /, ' a ')
    .replace('a rev', 'a turn')
  return words.charAt(0).toUpperCase() + words.slice(1)
}
