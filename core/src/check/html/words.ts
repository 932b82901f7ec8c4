/** Vocabularies of attributes: roles (WAI-ARIA 1.2, DPUB-ARIA 1.1), states, EPUB’s semantics, and elements of SVG and MathML. */
const words = (text: string): ReadonlySet<string> => new Set(text.trim().split(/\s+/));

/** Roles of WAI-ARIA 1.2 §5.3 that authors may use, and those of graphics (Graphics ARIA 1.0). */
export const ARIA_ROLES = words(`
alert alertdialog application article banner blockquote button caption cell checkbox code columnheader combobox complementary contentinfo
definition deletion dialog directory document emphasis feed figure form generic grid gridcell group heading img image insertion link list listbox listitem
log main marquee math menu menubar menuitem menuitemcheckbox menuitemradio meter navigation none note option paragraph presentation
progressbar radio radiogroup region row rowgroup rowheader scrollbar search searchbox separator slider spinbutton status strong subscript
superscript suggestion comment mark switch tab table tablist tabpanel term text textbox time timer toolbar tooltip tree treegrid treeitem
graphics-document graphics-object graphics-symbol`);

/** DPUB-ARIA 1.1 §3. */
export const DPUB_ROLES = words(`
doc-abstract doc-acknowledgments doc-afterword doc-appendix doc-backlink doc-biblioentry doc-bibliography doc-biblioref doc-chapter
doc-colophon doc-conclusion doc-cover doc-credit doc-credits doc-dedication doc-endnote doc-endnotes doc-epigraph doc-epilogue doc-errata
doc-example doc-footnote doc-foreword doc-glossary doc-glossref doc-index doc-introduction doc-noteref doc-notice doc-pagebreak
doc-pagefooter doc-pageheader doc-pagelist doc-part doc-preface doc-prologue doc-pullquote doc-qna doc-subtitle doc-tip doc-toc`);
/** Those that DPUB-ARIA 1.1 advises against. */
export const DEPRECATED_ROLES = words('doc-biblioentry doc-endnote directory');

/** States and properties (WAI-ARIA 1.2 §6.6). */
export const ARIA_ATTRIBUTES = words(`
aria-activedescendant aria-atomic aria-autocomplete aria-braillelabel aria-brailleroledescription aria-busy aria-checked aria-colcount
aria-colindex aria-colindextext aria-colspan aria-controls aria-current aria-describedby aria-description aria-details aria-disabled
aria-dropeffect aria-errormessage aria-expanded aria-flowto aria-grabbed aria-haspopup aria-hidden aria-invalid aria-keyshortcuts
aria-label aria-labelledby aria-level aria-live aria-modal aria-multiline aria-multiselectable aria-orientation aria-owns
aria-placeholder aria-posinset aria-pressed aria-readonly aria-relevant aria-required aria-roledescription aria-rowcount aria-rowindex
aria-rowindextext aria-rowspan aria-selected aria-setsize aria-sort aria-valuemax aria-valuemin aria-valuenow aria-valuetext`);
/** Attributes that name ids. */
export const ARIA_IDS = words(
  'aria-activedescendant aria-controls aria-describedby aria-details aria-errormessage aria-flowto aria-labelledby aria-owns',
);

/** EPUB 3 Structural Semantics Vocabulary 1.1. */
export const SEMANTICS = words(`
abstract acknowledgments afterword answer answers antonym-group appendix annotation annoref assessment assessments backlink backmatter
balloon biblioentry bibliography biblioref bodymatter bridgehead case-study chapter colophon concluding-sentence conclusion condensed-entry
contributors copyright-page cover covertitle credit credits dedication def dictentry dictionary division ebook endnote endnotes entry
epigraph epilogue errata etymology example feedback figure fill-in-the-blank-problem footnote footnotes foreword frontmatter fulltitle
general-problem glossary glossdef glossterm gram-info halftitle halftitlepage help idiom imprimatur imprint index index-editor-note
index-entry index-entry-list index-group index-headnotes index-legend index-locator index-locator-list index-locator-range index-term
index-term-categories index-term-category index-xref-preferred index-xref-related introduction keyword keywords label landmarks
learning-objective learning-objectives learning-outcome learning-outcomes learning-resource learning-resources learning-standard
learning-standards list list-item loa loi lot lov match-problem multiple-choice-problem note noteref notice ordinal other-credits
page-list pagebreak panel panel-group part part-of-speech part-of-speech-group part-of-speech-list phonetic-transcription phrase-group
phrase-list practice practices preamble preface prologue pullquote qna question rearnote rearnotes referrer region-based
revision-history seriespage sense-group sense-list sidebar sound-area subchapter subtitle synonym-group table table-cell
table-row text-area tip title titlepage toc toc-brief topic-sentence tran tran-info true-false-problem volume warning`);
/** Kinds of EPUB’s vocabulary that it advises against, and what replaces them. */
export const DEPRECATED_SEMANTICS: Readonly<Record<string, string>> = {
  annoref: 'noteref', annotation: 'an element of its own', rearnote: 'endnote', rearnotes: 'endnotes', help: 'tip', marginalia: 'aside',
  sidebar: 'aside', subchapter: 'section', warning: 'notice', note: 'footnote or endnote', bridgehead: 'a heading',
}; // prettier-ignore

/** SVG 1.1 §A, SVG 2. */
export const SVG_ELEMENTS = words(`
a altGlyph altGlyphDef altGlyphItem animate animateColor animateMotion animateTransform circle clipPath color-profile cursor defs desc
discard ellipse feBlend feColorMatrix feComponentTransfer feComposite feConvolveMatrix feDiffuseLighting feDisplacementMap feDistantLight
feDropShadow feFlood feFuncA feFuncB feFuncG feFuncR feGaussianBlur feImage feMerge feMergeNode feMorphology feOffset fePointLight
feSpecularLighting feSpotLight feTile feTurbulence filter font font-face font-face-format font-face-name font-face-src font-face-uri
foreignObject g glyph glyphRef hkern image line linearGradient marker mask metadata missing-glyph mpath path pattern polygon polyline
radialGradient rect script set stop style svg switch symbol text textPath title tref tspan use view vkern`);

/** Presentation markup of MathML 3 (§3), and what wraps it. */
export const MATHML_PRESENTATION = words(`
math mi mn mo mtext mspace ms mglyph mrow mfrac msqrt mroot mstyle merror mpadded mphantom mfenced menclose msub msup msubsup munder mover
munderover mmultiscripts mprescripts none mtable mlabeledtr mtr mtd maligngroup malignmark maction mstack mlongdiv msgroup msrow mscarries
mscarry msline semantics annotation annotation-xml`);
