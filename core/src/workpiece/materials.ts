import type { Material } from './tables'

const MEMORY = 'from memory, mid-range; check the supplier’s sheet'

/** Materials that are there from the start. */
export const MATERIALS: readonly Material[] = [
  { id: 'pla', name: 'PLA', density: 1.24, source: 'data-sheet practice, from memory', note: '' },
  { id: 'petg', name: 'PETG', density: 1.27, source: 'data-sheet practice, from memory', note: '' },
  { id: 'abs', name: 'ABS', density: 1.04, source: 'data-sheet practice, from memory', note: '' },
  { id: 'pp', name: 'Polypropylene', density: 0.905, source: MEMORY, note: '' },
  { id: 'pmma', name: 'Acrylic (PMMA)', density: 1.185, source: MEMORY, note: '' },
  { id: 'silicone', name: 'Silicone rubber', density: 1.15, source: MEMORY, note: '' },
  {
    id: 'borosilicate',
    name: 'Borosilicate glass 3.3',
    density: 2.23,
    source: 'ISO 3585, value from memory',
    note: '',
  },
  { id: 'soda-lime', name: 'Soda-lime glass', density: 2.5, source: MEMORY, note: '' },
  { id: 'stoneware', name: 'Stoneware, fired', density: 2.3, source: MEMORY, note: '' },
  { id: 'porcelain', name: 'Porcelain, fired', density: 2.4, source: MEMORY, note: '' },
  {
    id: 'aluminium',
    name: 'Aluminium',
    density: 2.7,
    source: 'handbook value, from memory',
    note: '',
  },
  { id: 'stainless', name: 'Stainless steel 1.4301', density: 7.9, source: MEMORY, note: '' },
  { id: 'beech', name: 'Beech, 12 % moisture', density: 0.72, source: MEMORY, note: '' },
]

/** A material by its id: one that a workpiece brings along, else one that is there from the start. */
export const materialOf = (
  id: string | undefined,
  own: readonly Material[] = [],
): Material | undefined => own.find((m) => m.id === id) ?? MATERIALS.find((m) => m.id === id)

/** Water at 20 deg C, g/cm3 (handbook value, from memory). */
export const WATER = 0.9982
