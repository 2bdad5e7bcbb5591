//! The print style: A4, page numbers, nothing cut in two.

/// Inks that print well in grey; shapes tell conditions, as on screen.
pub(super) const STYLE: &str = "
@page { size: A4; margin: 15mm 16mm 18mm; @bottom-left { content: string(none); } \
@bottom-right { content: 'Page ' counter(page) ' of ' counter(pages); font: 9pt sans-serif; color: #586563; } }
* { box-sizing: border-box; }
body { font: 10.5pt/1.45 'Atkinson Hyperlegible Next', 'Atkinson Hyperlegible', system-ui, sans-serif; color: #1a2123; \
max-width: 760px; margin: 24px auto; padding: 0 20px; background: #fff; }
h1 { font-size: 19pt; line-height: 1.2; margin: 4pt 0 6pt; letter-spacing: -0.2pt; }
h2 { font-size: 12.5pt; margin: 16pt 0 4pt; border-bottom: 1px solid #76857f; padding-bottom: 3pt; break-after: avoid; }
h3 { font-size: 10.5pt; margin: 8pt 0 2pt; break-after: avoid; }
p { margin: 0 0 5pt; }
.where { color: #3e4a4c; font-size: 9.5pt; margin-bottom: 8pt; }
.where b { color: #1a2123; }
.small { font-size: 9pt; color: #3e4a4c; }
.lead { font-size: 11.5pt; }
ul.ticks { list-style: none; padding-left: 0; }
ul, ol { margin: 2pt 0 6pt; padding-left: 16pt; }
li { margin-bottom: 3pt; }
table { border-collapse: collapse; width: 100%; font-size: 9pt; margin: 4pt 0 8pt; }
th { text-align: left; color: #586563; font-weight: 600; border-bottom: 1px solid #76857f; padding: 2pt 8pt 2pt 0; }
td { border-bottom: 1px solid #ccd6d1; padding: 2pt 8pt 2pt 0; vertical-align: top; }
td.n, th.n { text-align: right; font-variant-numeric: tabular-nums; }
tr, figure, svg, .keep, .finding { break-inside: avoid; }
svg { display: block; max-width: 100%; height: auto; margin: 6pt 0; }
figure { display: inline-block; margin: 4pt 8pt 4pt 0; width: 47%; vertical-align: top; }
figure img { width: 100%; max-height: 95mm; object-fit: contain; object-position: left top; border: 1px solid #ccd6d1; }
figcaption { font-size: 8.5pt; color: #3e4a4c; }
.finding { display: grid; grid-template-columns: 20px 1fr; gap: 8px; padding: 5pt 0; border-bottom: 1px solid #ccd6d1; }
.finding svg { margin: 2pt 0 0; }
.appendix { break-before: page; }
.foot { margin-top: 14pt; border-top: 1px solid #76857f; padding-top: 6pt; font-size: 9pt; color: #3e4a4c; }
.boxes td { border: 1px solid #76857f; height: 8.4mm; padding: 1pt 4pt; }
.boxes td.name { font-weight: 600; width: 15mm; background: #f1f5f2; }
.tick { display: inline-block; width: 3.6mm; height: 3.6mm; border: 1px solid #1a2123; margin-right: 2mm; vertical-align: -0.5mm; }
.line { display: inline-block; border-bottom: 1px solid #76857f; min-width: 32mm; }
.two { columns: 2; column-gap: 10mm; }
@media print { body { margin: 0; padding: 0; max-width: none; } .screen { display: none; } }
";
