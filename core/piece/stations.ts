import { radiusAt } from '../measure/profile-measures'
import type { DerivedPiece } from './derive'
import type { Station } from './schema'

/** A station with what the profile and the caliper say there. */
export interface StationReading {
  station: Station
  /** ⌀ of the profile, mm; null where the profile doesn't reach. */
  diameterMm: number | null
  /** Profile less caliper, mm; null without either. */
  offMm: number | null
}

/** Readings of stations, from the foot up. */
export function readStations(stations: readonly Station[], { drawn }: DerivedPiece): StationReading[] {
  return [...stations]
    .sort((a, b) => a.z - b.z)
    .map((station) => {
      const r = radiusAt(drawn, station.z)
      const diameterMm = r === null ? null : 2 * r
      const { caliperMm } = station
      return {
        station,
        diameterMm,
        offMm: diameterMm === null || caliperMm === null ? null : diameterMm - caliperMm,
      }
    })
}
