import {
  geoArea,
  geoCentroid,
  geoGraticule10,
  geoMercator,
  geoNaturalEarth1,
  geoPath,
  type GeoPermissibleObjects,
} from 'd3-geo';
import { useEffect, useState } from 'react';
import { Link } from 'react-router';
import { feature } from 'topojson-client';
import type { Plots } from '@wunsch/contract';
import { useWords } from '../../words/words.tsx';
import { MAP_SIZE } from './mapSize.ts';

const { width: WIDTH, height: HEIGHT } = MAP_SIZE;
const CLOSE = 260;

type World = Parameters<typeof feature>[0];

/** A lot and where it grew. */
export interface Place {
  id: string;
  code: string;
  name: string;
  plots: Plots;
}

/**
 * Plots with their rings wound the way spherical drawing reads them: files wind outer rings anticlockwise (RFC 7946), and
 * a ring read the other way round would mean the rest of the world.
 */
function wound(plots: Plots): Plots {
  const turned = (rings: number[][][]) => rings.map((ring) => [...ring].reverse());
  return {
    ...plots,
    features: plots.features.map((f) => {
      const { geometry } = f;
      if (geometry.type === 'Polygon' && geoArea(f as never) > 2 * Math.PI)
        return { ...f, geometry: { ...geometry, coordinates: turned(geometry.coordinates) } };
      if (geometry.type === 'MultiPolygon' && geoArea(f as never) > 2 * Math.PI)
        return { ...f, geometry: { ...geometry, coordinates: geometry.coordinates.map(turned) } };
      return f;
    }),
  };
}

/** The outlines of the land, shipped with the app and fetched only when a map is shown. */
function useLand(): GeoPermissibleObjects | null {
  const [land, setLand] = useState<GeoPermissibleObjects | null>(null);
  useEffect(() => {
    let here = true;
    void import('world-atlas/land-110m.json').then((module) => {
      const world = (module as unknown as { default: World }).default;
      if (here) setLand(feature(world, world.objects.land!) as GeoPermissibleObjects);
    });
    return () => {
      here = false;
    };
  }, []);
  return land;
}

/** The whole earth, as every map here shows it. */
const EARTH = geoNaturalEarth1().fitExtent(
  [
    [4, 4],
    [WIDTH - 4, HEIGHT - 4],
  ],
  { type: 'Sphere' },
);

const drawn = geoPath(EARTH);

/** Sea and land under a map's marks. */
function Ground() {
  const land = useLand();
  return (
    <>
      <path d={drawn({ type: 'Sphere' }) ?? ''} fill="var(--panel-2)" stroke="var(--line)" />
      <path d={drawn(geoGraticule10()) ?? ''} fill="none" stroke="var(--line)" strokeWidth="0.6" />
      {land && (
        <path
          d={drawn(land) ?? ''}
          fill="var(--stage-beans)"
          stroke="var(--line-2)"
          strokeWidth="0.7"
          opacity="0.75"
        />
      )}
    </>
  );
}

/** Where lots grew, on a map of the world that needs no network. Each mark is a link to its lot. */
export function PlotsMap({ places }: { places: readonly Place[] }) {
  const { t } = useWords();
  const marks = places.map((p) => ({ ...p, at: EARTH(geoCentroid(wound(p.plots) as never)) ?? [0, 0] }));
  return (
    <div className="overflow-x-auto" tabIndex={0} role="region" aria-label={t('lot.map')}>
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        className="w-full min-w-[560px]"
        role="group"
        aria-label={t('lot.map')}
      >
        <Ground />
        {marks.map((m, i) => {
          const [x, y] = m.at as [number, number];
          const near = marks.slice(0, i).filter((o) => Math.hypot(o.at[0]! - x, o.at[1]! - y) < 40).length;
          return (
            <Link key={m.id} to={`/beans/${m.id}`} aria-label={`${m.code} ${m.name}`}>
              <circle cx={x} cy={y} r="22" fill="transparent" />
              <circle cx={x} cy={y} r="5.5" fill="var(--violet-text)" stroke="var(--panel)" strokeWidth="2" />
              <text
                x={x + 10}
                y={y + 5 + near * 18}
                className="num"
                fontSize="15"
                fill="var(--ink)"
                stroke="var(--panel)"
                strokeWidth="4"
                paintOrder="stroke"
              >
                {m.code}
              </text>
            </Link>
          );
        })}
      </svg>
    </div>
  );
}

/** Points on the same map: longitude and latitude, degrees. */
export function PointsMap({
  points,
  label,
}: {
  points: readonly (readonly [number, number])[];
  label: string;
}) {
  return (
    <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} className="w-full" role="img" aria-label={label}>
      <Ground />
      {points.map(([longitude, latitude]) => {
        const [x, y] = EARTH([longitude, latitude]) ?? [0, 0];
        return (
          <circle
            key={`${longitude} ${latitude}`}
            cx={x}
            cy={y}
            r="11"
            fill="var(--violet-text)"
            stroke="var(--panel)"
            strokeWidth="3"
          />
        );
      })}
    </svg>
  );
}

/** A lot's own plots drawn close, with a bar for scale. */
export function PlotsClose({ plots: given }: { plots: Plots }) {
  const { t, number } = useWords();
  const plots = wound(given);
  const shape = plots as never as GeoPermissibleObjects;
  const projection = geoMercator().fitExtent(
    [
      [36, 24],
      [CLOSE * 2 - 36, CLOSE - 44],
    ],
    shape,
  );
  // A single point has no extent: show about 20 km around it.
  if (!Number.isFinite(projection.scale()) || projection.scale() > 4e6)
    projection
      .scale(80_000)
      .center(geoCentroid(shape as never))
      .translate([CLOSE, CLOSE / 2]);
  const path = geoPath(projection).pointRadius(6);
  const [longitude, latitude] = geoCentroid(shape as never);
  const metresPerPixel = (6_371_000 * Math.cos((latitude * Math.PI) / 180)) / projection.scale();
  const round = 10 ** Math.floor(Math.log10(metresPerPixel * 140));
  const metres = [5, 2, 1].map((k) => k * round).find((m) => m / metresPerPixel <= 140) ?? round;
  const name = (properties: Record<string, unknown> | null) =>
    typeof properties?.name === 'string' ? properties.name : '';
  return (
    <figure className="m-0">
      <svg
        viewBox={`0 0 ${CLOSE * 2} ${CLOSE}`}
        className="w-full rounded border border-line bg-panel-2"
        role="img"
        aria-label={t('lot.plots.count', { n: plots.features.length })}
      >
        {plots.features.map((f, i) => {
          const [x, y] = path.centroid(f as never);
          const point = f.geometry.type === 'Point';
          return (
            <g key={i}>
              <path
                d={path(f as never) ?? ''}
                fill="var(--stage-beans)"
                fillOpacity="0.7"
                stroke="var(--violet-text)"
                strokeWidth="1.4"
              />
              <text
                x={point ? x + 11 : x}
                y={y + 4}
                textAnchor={point ? 'start' : 'middle'}
                fontSize="12.5"
                fill="var(--ink)"
                stroke="var(--panel)"
                strokeWidth="3"
                paintOrder="stroke"
              >
                {name(f.properties)}
              </text>
            </g>
          );
        })}
        <path d={`M20 ${CLOSE - 22}v6h${metres / metresPerPixel}v-6`} fill="none" stroke="var(--ink-2)" />
        <text x={24 + metres / metresPerPixel} y={CLOSE - 16} fontSize="12" fill="var(--ink-2)">
          {metres >= 1000 ? `${number(metres / 1000)} km` : `${number(metres)} m`}
        </text>
      </svg>
      <figcaption className="mt-1 text-[12.5px] text-ink-3">
        {number(Math.abs(latitude), 3)}° {latitude < 0 ? t('south') : t('north')},{' '}
        {number(Math.abs(longitude), 3)}° {longitude < 0 ? t('west') : t('east')}
      </figcaption>
    </figure>
  );
}
