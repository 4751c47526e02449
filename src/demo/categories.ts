/** The catalogue's tree: code, name, and the branches below. */
export interface DemoCategory {
  readonly code: string
  readonly name: string
  readonly children?: readonly DemoCategory[]
}

const leaf = (code: string, name: string): DemoCategory => ({ code, name })

export const DEMO_CATEGORIES: readonly DemoCategory[] = [
  {
    code: 'hives',
    name: 'Hives',
    children: [
      {
        code: 'complete-hives',
        name: 'Complete hives',
        children: [leaf('standard-hives', 'Standard hives'), leaf('starter-bundles', 'Starter bundles')],
      },
      {
        code: 'hive-parts',
        name: 'Hive parts',
        children: [
          leaf('boxes', 'Brood boxes and supers'),
          leaf('floors-roofs', 'Floors and roofs'),
          leaf('excluders', 'Queen excluders'),
        ],
      },
      leaf('stands', 'Stands and straps'),
    ],
  },
  {
    code: 'frames-foundation',
    name: 'Frames and foundation',
    children: [
      {
        code: 'frames',
        name: 'Frames',
        children: [leaf('brood-frames', 'Brood frames'), leaf('super-frames', 'Super frames')],
      },
      {
        code: 'foundation',
        name: 'Foundation',
        children: [
          leaf('wax-foundation', 'Wax foundation'),
          leaf('plastic-foundation', 'Plastic foundation'),
        ],
      },
    ],
  },
  {
    code: 'clothing',
    name: 'Suits and gloves',
    children: [
      {
        code: 'suits',
        name: 'Suits and jackets',
        children: [leaf('full-suits', 'Full suits'), leaf('jackets', 'Jackets')],
      },
      leaf('gloves', 'Gloves'),
      leaf('veils', 'Veils and hats'),
    ],
  },
  {
    code: 'tools',
    name: 'Smokers and tools',
    children: [
      leaf('smokers', 'Smokers and fuel'),
      leaf('hive-tools', 'Hive tools'),
      leaf('marking', 'Marking and handling'),
    ],
  },
  {
    code: 'extraction',
    name: 'Extraction',
    children: [
      {
        code: 'extractors',
        name: 'Extractors',
        children: [
          leaf('manual-extractors', 'Manual extractors'),
          leaf('powered-extractors', 'Powered extractors'),
        ],
      },
      leaf('uncapping', 'Uncapping'),
      leaf('straining', 'Straining and settling'),
    ],
  },
  {
    code: 'packaging',
    name: 'Jars and packaging',
    children: [
      {
        code: 'jars',
        name: 'Jars',
        children: [leaf('round-jars', 'Round jars'), leaf('shaped-jars', 'Shaped jars')],
      },
      leaf('lids', 'Lids'),
      leaf('labels', 'Labels and seals'),
      leaf('buckets', 'Buckets and bulk'),
    ],
  },
  {
    code: 'feed',
    name: 'Feed',
    children: [
      {
        code: 'sugar-feed',
        name: 'Sugar feed',
        children: [leaf('syrup', 'Syrup'), leaf('fondant', 'Fondant')],
      },
      leaf('protein-feed', 'Pollen and protein'),
      leaf('feeders', 'Feeders'),
    ],
  },
  {
    code: 'health',
    name: 'Hive health',
    children: [
      {
        code: 'varroa',
        name: 'Varroa',
        children: [leaf('treatments', 'Treatments'), leaf('monitoring', 'Monitoring')],
      },
      leaf('hygiene', 'Cleaning and hygiene'),
    ],
  },
  {
    code: 'queens',
    name: 'Queens and nuclei',
    children: [
      {
        code: 'livestock',
        name: 'Livestock',
        children: [leaf('mated-queens', 'Mated queens'), leaf('nuclei', 'Nuclei')],
      },
      leaf('queen-rearing', 'Queen rearing'),
    ],
  },
  {
    code: 'learning',
    name: 'Books and courses',
    children: [leaf('books', 'Books'), leaf('courses', 'Courses')],
  },
]
