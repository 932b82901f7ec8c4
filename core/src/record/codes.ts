/**
 * Codes that the trade shares, from memory: MARC relators as EPUB's `role` refinement wants them
 * (id.loc.gov/vocabulary/relators), and ONIX code lists 17 (contributors), 21 (edition types) and 28 (audiences).
 */

export const ROLES = [
  'author',
  'editor',
  'translator',
  'illustrator',
  'photographer',
  'introduction',
  'foreword',
  'afterword',
  'interior',
  'cover',
] as const;
export type Role = (typeof ROLES)[number];

export const RELATOR: Record<Role, string> = {
  author: 'aut',
  editor: 'edt',
  translator: 'trl',
  illustrator: 'ill',
  photographer: 'pht',
  introduction: 'win',
  foreword: 'aui',
  afterword: 'aft',
  interior: 'bkd',
  cover: 'cov',
};
/** As one says who did what. */
export const ROLE_NAMES: Record<Role, string> = {
  author: 'Author',
  editor: 'Editor',
  translator: 'Translator',
  illustrator: 'Illustrator',
  photographer: 'Photographer',
  introduction: 'Author of the introduction',
  foreword: 'Author of the foreword',
  afterword: 'Author of the afterword',
  interior: 'Designer of the interior',
  cover: 'Designer of the cover',
};

/** ONIX list 21. */
export const EDITION_TYPES = ['NED', 'REV', 'ENL', 'ILL', 'LTE', 'ANN', 'ABR', 'SPE'] as const;
export type EditionType = (typeof EDITION_TYPES)[number];
export const EDITION_TYPE_NAMES: Record<EditionType, string> = {
  NED: 'New edition',
  REV: 'Revised edition',
  ENL: 'Enlarged edition',
  ILL: 'Illustrated edition',
  LTE: 'Large-type edition',
  ANN: 'Annotated edition',
  ABR: 'Abridged edition',
  SPE: 'Special edition',
};

/** ONIX list 28. */
export const AUDIENCES = ['general', 'children', 'young-adult', 'school', 'higher', 'professional'] as const;
export type Audience = (typeof AUDIENCES)[number];
export const AUDIENCE_CODE: Record<Audience, string> = {
  general: '01',
  children: '02',
  'young-adult': '03',
  school: '04',
  higher: '05',
  professional: '06',
};
export const AUDIENCE_NAMES: Record<Audience, string> = {
  general: 'General readers',
  children: 'Children',
  'young-adult': 'Young adults',
  school: 'Schools',
  higher: 'Universities',
  professional: 'Professionals',
};
