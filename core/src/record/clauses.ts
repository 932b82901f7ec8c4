/**
 * Clauses a copyright page may carry, in five languages, English where we have no other. The wording is our own, after
 * common practice; the licence is named as Creative Commons asks (title, holder, licence, address; CC BY 4.0 section 3a).
 */
import { byLanguage } from '../base';

export const CLAUSES = [
  'rights-reserved',
  'moral-rights',
  'fiction',
  'no-training',
  'cc-by',
  'cc-by-nc-nd',
  'first-edition',
] as const;
export type Clause = (typeof CLAUSES)[number];

/** What each says in a word, for choosing. */
export const CLAUSE_NAMES: Record<Clause, string> = {
  'rights-reserved': 'All rights reserved',
  'moral-rights': 'The author asserts the moral right',
  fiction: 'A work of fiction',
  'no-training': 'Not to be used for AI training',
  'cc-by': 'Free to share and adapt with credit (CC BY 4.0)',
  'cc-by-nc-nd': 'Free to share unchanged, not for sale (CC BY-NC-ND 4.0)',
  'first-edition': 'First edition',
};

/** Clauses that contradict each other: choosing one takes the others away. */
export const RIVALS: readonly (readonly Clause[])[] = [['rights-reserved', 'cc-by', 'cc-by-nc-nd']];

interface Imprint {
  first: (year: string, imprint: string) => string;
  published: (imprint: string) => string;
  clauses: Record<Clause, (author: string) => string>;
}

const licence = (
  say: (name: string, url: string) => string,
): Pick<Imprint['clauses'], 'cc-by' | 'cc-by-nc-nd'> => ({
  'cc-by': () => say('CC BY 4.0', 'https://creativecommons.org/licenses/by/4.0/'),
  'cc-by-nc-nd': () => say('CC BY-NC-ND 4.0', 'https://creativecommons.org/licenses/by-nc-nd/4.0/'),
});

const en: Imprint = {
  first: (year, imprint) => `First published in ${year} by ${imprint}`,
  published: (imprint) => `Published by ${imprint}`,
  clauses: {
    'rights-reserved': () =>
      'All rights reserved. No part of this book may be reproduced or transmitted in any form without the written permission of the copyright holder, except for brief quotations in reviews.',
    'moral-rights': (author) =>
      `The moral right of ${author || 'the author'} to be identified as the author of this work has been asserted.`,
    fiction: () =>
      'This is a work of fiction. Names, characters, places and incidents are products of the author’s imagination or are used fictitiously. Any resemblance to actual persons, living or dead, events or places is entirely coincidental.',
    'no-training': () =>
      'No part of this book may be used to train artificial intelligence systems that generate text or images.',
    ...licence((name, url) => `This book may be shared under the terms of the licence ${name}: ${url}`),
    'first-edition': () => 'First edition',
  },
};
const fr: Imprint = {
  first: (year, imprint) => `Première publication en ${year} par ${imprint}`,
  published: (imprint) => `Publié par ${imprint}`,
  clauses: {
    'rights-reserved': () =>
      'Tous droits réservés. Aucune partie de ce livre ne peut être reproduite ou transmise sous quelque forme que ce soit sans l’autorisation écrite du titulaire des droits, à l’exception de brèves citations dans des critiques.',
    'moral-rights': (author) => `Le droit moral de ${author || 'l’auteur'} sur cette œuvre est affirmé.`,
    fiction: () =>
      'Ceci est une œuvre de fiction. Les noms, les personnes, les lieux et les événements sont inventés ; toute ressemblance avec des personnes ou des faits réels serait fortuite.',
    'no-training': () =>
      'Aucune partie de ce livre ne peut servir à entraîner des systèmes automatiques qui produisent des textes ou des images.',
    ...licence((name, url) => `Ce livre peut être partagé sous la licence ${name} : ${url}`),
    'first-edition': () => 'Première édition',
  },
};
const de: Imprint = {
  first: (year, imprint) => `Erstmals erschienen ${year} bei ${imprint}`,
  published: (imprint) => `Verlag: ${imprint}`,
  clauses: {
    'rights-reserved': () =>
      'Alle Rechte vorbehalten. Kein Teil dieses Buches darf ohne schriftliche Genehmigung des Rechteinhabers in irgendeiner Form vervielfältigt oder weitergegeben werden, kurze Zitate in Besprechungen ausgenommen.',
    'moral-rights': (author) =>
      `Das Urheberpersönlichkeitsrecht liegt bei ${author || 'der Autorin oder dem Autor'}.`,
    fiction: () =>
      'Dies ist ein Werk der Fiktion. Namen, Personen, Orte und Ereignisse sind erfunden; jede Ähnlichkeit mit lebenden oder verstorbenen Personen wäre rein zufällig.',
    'no-training': () =>
      'Die Nutzung dieses Buches für Text- und Data-Mining und zum Trainieren automatischer Systeme ist vorbehalten.',
    ...licence((name, url) => `Dieses Buch darf unter der Lizenz ${name} weitergegeben werden: ${url}`),
    'first-edition': () => '1. Auflage',
  },
};
const es: Imprint = {
  first: (year, imprint) => `Publicado por primera vez en ${year} por ${imprint}`,
  published: (imprint) => `Publicado por ${imprint}`,
  clauses: {
    'rights-reserved': () =>
      'Todos los derechos reservados. Ninguna parte de este libro puede reproducirse ni transmitirse de ninguna forma sin el permiso escrito del titular de los derechos, salvo citas breves en reseñas.',
    'moral-rights': (author) => `Se reconoce el derecho moral de ${author || 'su autor'} sobre esta obra.`,
    fiction: () =>
      'Esta es una obra de ficción. Los nombres, las personas, los lugares y los hechos son inventados; cualquier parecido con la realidad es pura coincidencia.',
    'no-training': () =>
      'Ninguna parte de este libro puede usarse para entrenar sistemas automáticos que produzcan textos o imágenes.',
    ...licence((name, url) => `Este libro puede compartirse bajo la licencia ${name}: ${url}`),
    'first-edition': () => 'Primera edición',
  },
};
const it: Imprint = {
  first: (year, imprint) => `Prima pubblicazione: ${year}, ${imprint}`,
  published: (imprint) => `Pubblicato da ${imprint}`,
  clauses: {
    'rights-reserved': () =>
      'Tutti i diritti riservati. Nessuna parte di questo libro può essere riprodotta o trasmessa in alcuna forma senza il permesso scritto del titolare dei diritti, salvo brevi citazioni in recensioni.',
    'moral-rights': (author) => `È affermato il diritto morale di ${author || 'chi scrive'} su quest’opera.`,
    fiction: () =>
      'Questa è un’opera di fantasia. Nomi, persone, luoghi ed eventi sono inventati; ogni somiglianza con persone o fatti reali è puramente casuale.',
    'no-training': () =>
      'Nessuna parte di questo libro può essere usata per addestrare sistemi automatici che producono testi o immagini.',
    ...licence((name, url) => `Questo libro può essere condiviso con la licenza ${name}: ${url}`),
    'first-edition': () => 'Prima edizione',
  },
};

const BY_LANGUAGE: Record<string, Imprint> = { en, fr, de, es, it };

/** The wording of a copyright page in a language (BCP 47). */
export const imprintWords = (language: string): Imprint => byLanguage(BY_LANGUAGE, language) ?? en;
