/** A small drawing of each kind of instrument, as it lies in the hand. */
const DRAWN: Record<string, string> = {
  multimeter:
    "M8 3h10v15H8zM10 5.5h6v3h-6zM13 12.5m-2.2 0a2.2 2.2 0 1 0 4.4 0a2.2 2.2 0 1 0 -4.4 0M13 12.5l1.4-1.4M10 18v5M16 18v5",
  clamp_meter: "M13 2.5a5 5 0 0 0-4 8M13 2.5a5 5 0 0 1 4 8M9 10.5h8v12H9zM11 13h4v3h-4z",
  voltage_tester: "M9 2v13M17 2v13M7.5 15h3v8h-3zM15.5 15h3v8h-3zM10.5 19c2-2 3-2 5 0",
  insulation_tester:
    "M4 9h15v12H4zM7 12h6v4H7zM19 14h3.5v-4M22.5 10m-1 0a1 1 0 1 0 2 0a1 1 0 1 0 -2 0M7 21v2M16 21v2",
  low_ohm_meter: "M5 10h16v12H5zM8 13h6v4H8zM5 5c4 3 12 3 16 0M8 10V7M18 10V7",
  thermal_camera: "M4 8h12v8H4zM16 10l5-2v8l-5-2M8 16v7h5v-7",
  thermometer: "M13 3v11M11 3h4v11a4 4 0 1 1-4 0zM13 17m-1.6 0a1.6 1.6 0 1 0 3.2 0a1.6 1.6 0 1 0 -3.2 0",
  vibration_meter:
    "M9 3h8v12H9zM11 5.5h4v3h-4zM13 15v4M10 19h6v3h-6zM20 8c1.5 1 1.5 3 0 4M6 8c-1.5 1-1.5 3 0 4",
  dial_indicator: "M13 10m-7 0a7 7 0 1 0 14 0a7 7 0 1 0 -14 0M13 10l3-4M13 17v7M13 3V1",
  alignment_laser: "M3 9h6v9H3zM17 9h6v9h-6zM9 13.5h2M12.5 13.5h1M15 13.5h2M6 18v4M20 18v4",
  feeler_gauge: "M5 20l14-14M5 20l16-9M5 20l16-3M5 20m-1.5 0a1.5 1.5 0 1 0 3 0a1.5 1.5 0 1 0 -3 0",
  pressure_gauge: "M13 11m-8 0a8 8 0 1 0 16 0a8 8 0 1 0 -16 0M13 11l4-4M11 19v4h4v-4",
  tachometer: "M8 12h10v11H8zM10 15h6v3h-6zM13 12V7M9 5a5 5 0 0 1 8 0",
};
export function Sign({ kind, size = 24 }: { kind: string; size?: number }) {
  return (
    <svg width={size} height={size} viewBox="0 0 26 26" aria-hidden="true">
      <path
        d={DRAWN[kind] ?? "M6 6h14v14H6z"}
        fill="none"
        stroke="currentColor"
        strokeWidth={1.5}
        strokeLinecap="round"
        strokeLinejoin="round"
      />
    </svg>
  );
}
