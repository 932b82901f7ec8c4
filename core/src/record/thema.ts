/**
 * Subjects of Thema, the book trade's international scheme (EDItEUR), from memory: its sections, and those of its categories
 * that could be stated with certainty. A code that isn't here can be typed; its form alone is checked.
 */

export interface Subject {
  code: string;
  name: string;
}

const LINES = `
A The Arts
AB The arts: general topics
AF Art forms
AG Art treatments and subjects
AJ Photography and photographs
AK Design, industrial and commercial arts, illustration
AM Architecture
AT Performing arts
AV Music
C Language and Linguistics
CB Language: reference and general
CF Linguistics
CJ Language teaching and learning
D Biography, Literature and Literary studies
DB Ancient, classic and medieval texts
DC Poetry
DCF Poetry by individual poets
DCQ Poetry anthologies
DD Plays, playscripts
DN Biography and non-fiction prose
DNB Biography: general
DNC Memoirs
DNL Literary essays
DNP Reportage, journalism or collected columns
DNT Anthologies: general
DNX True stories: general
DNXC True crime
DS Literature: history and criticism
F Fiction and Related items
FB Fiction: general and literary
FBA Modern and contemporary fiction: general and literary
FBC Classic fiction: general and literary
FC Biographical fiction
FD Speculative fiction
FDB Dystopian and utopian fiction
FDK Alternative history fiction
FF Crime and mystery fiction
FFC Classic crime and mystery fiction
FFD Crime and mystery: women sleuths
FFH Historical crime and mysteries
FFJ Crime and mystery: cosy mystery
FFK Comic crime and mystery
FFL Crime and mystery: hard-boiled crime, noir fiction
FFP Crime and mystery: police procedural
FG Sports fiction
FH Thriller / suspense fiction
FHD Espionage and spy thriller
FHK Technothriller
FHX Psychological thriller
FJ Adventure fiction: general
FJH Historical adventure fiction
FJM War, combat and military adventure fiction
FJN Sea stories
FJW Adventure fiction: Westerns
FK Horror and supernatural fiction
FKC Classic horror and ghost stories
FL Science fiction
FLC Classic science fiction
FLG Science fiction: time travel
FLM Science fiction: steampunk
FLQ Science fiction: apocalyptic and post-apocalyptic
FLR Science fiction: military
FLS Science fiction: space opera
FLU Science fiction: aliens / UFOs
FLW Science fiction: space exploration
FM Fantasy
FMB Epic fantasy / heroic fantasy
FMH Historical fantasy
FMK Comic (humorous) fantasy
FMM Magical realism
FMR Fantasy romance
FMW Contemporary fantasy
FMX Urban fantasy
FN Myths and fairy tales
FP Erotic fiction
FQ Contemporary lifestyle fiction
FR Romance
FRD Contemporary romance
FRH Historical romance
FRM Romantic suspense
FS Family life fiction
FT Generational sagas
FU Humorous fiction
FUP Satirical fiction and parodies
FV Historical fiction
FW Religious and spiritual fiction
FX Fiction: narrative themes
FXB Narrative theme: coming of age
FXD Narrative theme: love and relationships
FXL Narrative theme: death, grief, loss
FXP Narrative theme: politics
FXR Narrative theme: sense of place
FY Fiction: special features
FYB Short stories
FYD Epistolary fiction
FYT Fiction in translation
G Reference, Information and Interdisciplinary subjects
GT Interdisciplinary studies
J Society and Social Sciences
JB Society and culture: general
JH Sociology and anthropology
JM Psychology
JN Education
JP Politics and government
JW Warfare and defence
K Economics, Finance, Business and Management
KC Economics
KF Finance and accounting
KJ Business and Management
KN Industry and industrial studies
L Law
M Medicine and Nursing
MB Medicine: general issues
N History and Archaeology
NH History
NHD European history
NHF Asian history
NHH African history
NHK History of the Americas
NHT History: specific events and topics
NHW Military history
NK Archaeology
P Mathematics and Science
PB Mathematics
PD Science: general issues
PG Astronomy, space and time
PH Physics
PN Chemistry
PS Biology, life sciences
Q Philosophy and Religion
QD Philosophy
QR Religion and beliefs
R Earth Sciences, Geography, Environment, Planning
RB Earth sciences
RG Geography
RN The environment
S Sports and Active outdoor recreation
SC Sports: general
SF Ball sports and ball games
SZ Outdoor recreation
T Technology, Engineering, Agriculture, Industrial processes
TV Agriculture and farming
U Computing and Information Technology
UM Computer programming / software engineering
V Health, Relationships and Personal development
VF Family and health
VS Self-help, personal development and practical advice
VX Mind, body, spirit
W Lifestyle, Hobbies and Leisure
WB Cookery / food and drink etc
WF Handicrafts, decorative arts and crafts
WG Transport: general interest
WH Humour
WJ Lifestyle and personal style guides
WM Gardening
WN Nature and the natural world: general interest
WT Travel and holiday
X Graphic novels, Comic books, Manga, Cartoons
Y Children’s, Teenage and Educational
YB Picture books, activity books and early learning concepts
YBC Children’s picture books
YF Children’s / Teenage fiction and true stories
YFB Children’s / Teenage fiction: general, modern and contemporary fiction
YFC Children’s / Teenage fiction: action and adventure stories
YFD Children’s / Teenage fiction: horror and ghost stories, chillers
YFG Children’s / Teenage fiction: science fiction
YFH Children’s / Teenage fiction: fantasy
YFP Children’s / Teenage fiction: nature and animal stories
YN Children’s / Teenage: general interest
`;

export const SUBJECTS: readonly Subject[] = LINES.trim()
  .split('\n')
  .map((line) => ({ code: line.slice(0, line.indexOf(' ')), name: line.slice(line.indexOf(' ') + 1) }));

const BY_CODE = new Map(SUBJECTS.map((s) => [s.code, s.name]));

/** A section's letter, then letters and figures, each a step narrower. */
export const isSubjectCode = (code: string): boolean => /^[A-Z][A-Z0-9]{0,7}$/.test(code);

/** The narrowest category of the list that a code is or lies in; null for none. */
export function subjectOf(code: string): Subject | null {
  for (let length = code.length; length > 0; length--) {
    const name = BY_CODE.get(code.slice(0, length));
    if (name) return { code: code.slice(0, length), name };
  }
  return null;
}
