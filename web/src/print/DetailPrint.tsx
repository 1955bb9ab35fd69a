import { Button } from '@mantine/core';
import { IconPrinter } from '@tabler/icons-react';
import { ROLES, cutListOf, dimensionsOf, isSidePiece, sectionsOf, shortMarks } from '#core';
import { useLayoutEffect, useRef, useState } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import { BuildUp } from '../details/BuildUp.tsx';
import { DetailDrawing } from '../details/DetailDrawing.tsx';
import { blankOf, keyOf } from '../details/DetailsPage.tsx';
import { Choice } from '../Choice.tsx';
import { FaceDrawing } from '../details/FaceDrawing.tsx';
import { SectionFigure } from '../details/SectionFigure.tsx';
import { useEditing, usePlanned } from '../editor/context.ts';
import { FlatPatternDrawing } from '../piece/FlatPatternDrawing.tsx';
import css from './DetailPrint.module.css';
import { PAPERS, PAPER_NAMES, type Paper } from './papers.ts';

/** Pixels a face is drawn high on paper. */
const FACE_HEIGHT = 140;

/** CSS pixels in a millimetre of paper. */
const PIXELS = 96 / 25.4;

/** One detail on one page: its drawings, sections, build-up, cut list and flat patterns, to take to the brake. */
export function DetailPrint() {
  const { id } = useParams();
  const [search] = useSearchParams();
  const { job, library, units } = useEditing();
  const { plan } = usePlanned();
  const [paper, setPaper] = useState<Paper>(job.units === 'imperial' ? 'Letter' : 'A4');
  const panel = plan.panels.find((one) => keyOf(one) === search.get('detail')) ?? plan.panels[0];
  const page = useRef<HTMLElement>(null);
  const [zoom, setZoom] = useState(1);
  const { width, height } = PAPERS[paper];
  // what is taller than the page is drawn smaller, all of it alike, until it fits
  useLayoutEffect(() => {
    const article = page.current;
    if (!article) return;
    const room = height * PIXELS - 4;
    // measured at the size it is drawn: letters drawn smaller are not smaller to the dot, and wrap elsewhere
    const drawAt = (zoom: number): void => {
      article.style.zoom = String(zoom);
      article.style.width = `${width / zoom}mm`;
    };
    const fits = (zoom: number): boolean => {
      drawAt(zoom);
      return article.getBoundingClientRect().height <= room;
    };
    const fit = (): void => {
      let least = 0.3;
      let most = 1;
      if (fits(most)) least = most;
      else
        for (let i = 0; i < 8; i++) {
          const middle = (least + most) / 2;
          if (fits(middle)) least = middle;
          else most = middle;
        }
      drawAt(least);
      setZoom(least);
    };
    fit();
    // letters that come later are as wide as others
    void document.fonts.ready.then(fit);
  }, [width, height, panel, plan]);
  if (!panel) return <p className="waiting">Nothing stands on this roof yet.</p>;
  const pieces = plan.pieces.filter(({ detail }) => detail === panel.detail);
  const names = new Map(library.catalog.items.map((item) => [item.id, item.name]));
  const dimensions = dimensionsOf(plan, panel);
  const faces = plan.facets.filter(({ on, detail, cavity }) => on === panel.plane && detail === panel.detail && !cavity);
  const cuts = cutListOf(pieces);
  // both sides of a chimney or frame are alike but for the hand
  const sides = new Set(plan.joints.flatMap(({ kind, b, side }) => (kind === 'side' && side === 1 ? [b] : [])));
  const shownFaces = faces.length > 2 ? faces.filter((facet) => !sides.has(facet.id)) : faces;
  return (
    <main className={css.sheet}>
      <style>{`@page { size: ${paper}; margin: 12mm; }`}</style>
      <div className="print-tools">
        <Link to={`/jobs/${id}/details?detail=${encodeURIComponent(keyOf(panel))}`}>Back to the detail</Link>
        <Choice label="Paper" value={paper} onChange={setPaper} options={PAPER_NAMES} />
        <Button leftSection={<IconPrinter size={16} />} onClick={() => print()}>
          Print
        </Button>
      </div>
      <div className={css.frame}>
        <article ref={page} className={css.page} data-zoom={zoom} aria-label={`${panel.title}, one page`}>
          <header className={css.head}>
            <h1>{panel.title}</h1>
            <span>
              {job.name}, {plan.planes.find(({ id: own }) => own === panel.plane)!.name}
            </span>
          </header>
          <div className={faces.length > 1 ? css.top : undefined}>
            <div className={css.drawing}>
              <DetailDrawing panel={panel} />
            </div>
            {shownFaces.length > 0 && (
              <div className={css.faces}>
                {shownFaces.map((facet) => (
                  <FaceDrawing
                    key={facet.id}
                    facet={facet}
                    dimensions={dimensions}
                    height={FACE_HEIGHT}
                    most={faces.length > 1 ? 380 : 660}
                  />
                ))}
                {shownFaces.length < faces.length && <p>The other side is its mirror image.</p>}
              </div>
            )}
          </div>
          <div className={css.sections}>
            {sectionsOf(plan, panel).map((section) => (
              <SectionFigure key={section.title} section={section} plan={plan} detail={panel.detail} width={470} />
            ))}
          </div>
          <h2>Built up in this order</h2>
          <BuildUp panel={panel} plan={plan} width={76} />
          <div className={css.cutting}>
            <table className={css.cuts}>
              <caption>Cut list</caption>
              <thead>
                <tr>
                  <th>How many</th>
                  <th>Piece</th>
                  <th>Blank</th>
                  <th>From</th>
                </tr>
              </thead>
              <tbody>
                {cuts.map((row) => (
                  <tr key={row.marks[0]}>
                    <td className="fig">{row.count}</td>
                    <td>
                      {ROLES[row.role].name} {shortMarks(row.marks)}
                      {row.halves && ', in halves, one turned over'}
                    </td>
                    <td className="fig">{blankOf(row, units)}</td>
                    <td>{names.get(row.product)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
            <ul className={css.patterns} aria-label="Flat patterns, each to its own scale">
              {cuts.map((row) => {
                const { flat } = pieces.find(({ mark }) => mark === row.marks[0])!;
                if (!flat || isSidePiece(row.role)) return null;
                return (
                  <li key={row.marks[0]}>
                    <b className="fig">{row.count} ×</b> {shortMarks(row.marks)}
                    <FlatPatternDrawing flat={flat} />
                  </li>
                );
              })}
            </ul>
          </div>
          <p className={css.foot}>
            Local code, the maker’s current instructions and licensed practice govern. Ruvet computes; it does not approve.
          </p>
        </article>
      </div>
    </main>
  );
}
