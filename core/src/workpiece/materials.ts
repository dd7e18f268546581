/** A material with its density, g/cm3, and where the figure comes from. */
export interface Material {
  id: string
  name: string
  density: number
  source: string
}

const MEMORY = 'from memory, mid-range; check the supplier’s sheet'

export const MATERIALS: readonly Material[] = [
  { id: 'pla', name: 'PLA', density: 1.24, source: 'data-sheet practice, from memory' },
  { id: 'petg', name: 'PETG', density: 1.27, source: 'data-sheet practice, from memory' },
  { id: 'abs', name: 'ABS', density: 1.04, source: 'data-sheet practice, from memory' },
  { id: 'pp', name: 'Polypropylene', density: 0.905, source: MEMORY },
  { id: 'pmma', name: 'Acrylic (PMMA)', density: 1.185, source: MEMORY },
  { id: 'silicone', name: 'Silicone rubber', density: 1.15, source: MEMORY },
  {
    id: 'borosilicate',
    name: 'Borosilicate glass 3.3',
    density: 2.23,
    source: 'ISO 3585, value from memory',
  },
  { id: 'soda-lime', name: 'Soda-lime glass', density: 2.5, source: MEMORY },
  { id: 'stoneware', name: 'Stoneware, fired', density: 2.3, source: MEMORY },
  { id: 'porcelain', name: 'Porcelain, fired', density: 2.4, source: MEMORY },
  { id: 'aluminium', name: 'Aluminium', density: 2.7, source: 'handbook value, from memory' },
  { id: 'stainless', name: 'Stainless steel 1.4301', density: 7.9, source: MEMORY },
  { id: 'beech', name: 'Beech, 12 % moisture', density: 0.72, source: MEMORY },
]

export const materialOf = (id: string | undefined): Material | undefined =>
  MATERIALS.find((m) => m.id === id)

/** Water at 20 deg C, g/cm3 (handbook value, from memory). */
export const WATER = 0.9982
