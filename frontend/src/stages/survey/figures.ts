/** Which figures of a found part are asked for, in the order in which they are read off it. */
import type { Pick } from "@/shared/fields/PickField.vue";

export interface Figure {
  name: string;
  label: string;
  unit?: string;
  sort: "number" | "text" | "pick" | "yes_no";
  picks?: Pick[];
  nullable?: boolean;
}

const number = (name: string, label: string, unit: string, nullable = false): Figure => ({
  name,
  label,
  unit,
  sort: "number",
  nullable,
});
const pick = (name: string, label: string, picks: [Pick["value"], string][], nullable = false) => ({
  name,
  label,
  sort: "pick" as const,
  nullable,
  picks: picks.map(([value, title]) => ({ value, title })),
});
const yesNo = (name: string, label: string): Figure => ({
  name,
  label,
  sort: "yes_no",
  nullable: true,
});

export const BANK_FIGURES: Figure[] = [
  pick("role", "What it is for", [
    ["engine", "Starting the engine"],
    ["house", "House"],
    ["thruster", "Thruster"],
    ["other", "Other"],
  ]),
  pick("unit_v", "Volts of one battery", [
    [6, "6 V"],
    [8, "8 V"],
    [12, "12 V"],
    [24, "24 V"],
  ]),
  number("unit_ah", "Capacity of one, 20 h", "Ah"),
  number("unit_cca_a", "Cold cranking amps of one", "A", true),
  number("series", "In series", ""),
  number("parallel", "In parallel", ""),
  number("age_years", "Age", "years", true),
  yesNo("members_alike", "All of one make, size, age"),
  pick(
    "take_off",
    "Positive and negative taken off",
    [
      ["opposite", "At opposite ends"],
      ["one_end", "At one end"],
    ],
    true,
  ),
];

const POSITION: Figure = pick("position", "Stands on", [
  ["off", "Off"],
  ["on", "On"],
]);
const RATING = number("rating_a", "Continuous rating", "A");

export const GEAR_FIGURES: Record<string, Figure[]> = {
  alternator: [
    number("rated_a", "Rated current", "A"),
    number("set_v", "Voltage it holds", "V"),
    pick("sensing", "Senses", [
      ["machine", "At the machine"],
      ["external", "By leads of its own"],
    ]),
  ],
  charger: [
    number("rated_a", "Rated current", "A"),
    number("outputs", "Outputs", ""),
    number("set_v", "Absorption", "V"),
    number("float_v", "Float", "V"),
  ],
  solar: [
    number("panel_w", "Panels", "W"),
    pick("controller", "Controller", [
      ["mppt", "Tracking (MPPT)"],
      ["pwm", "Switching (PWM)"],
    ]),
    number("set_v", "Absorption", "V"),
  ],
  selector: [
    RATING,
    yesNo("make_before_break", "Makes before it breaks"),
    pick("position", "Stands on", [
      ["off", "Off"],
      ["1", "1"],
      ["both", "Both"],
      ["2", "2"],
    ]),
  ],
  dual_switch: [
    RATING,
    pick("position", "Stands on", [
      ["off", "Off"],
      ["on", "On"],
      ["combine", "Combine"],
    ]),
  ],
  switch: [
    RATING,
    pick("purpose", "What it does", [
      ["isolate", "Cuts off"],
      ["parallel", "Joins two banks"],
    ]),
    POSITION,
  ],
  breaker: [RATING, POSITION],
  relay: [
    pick("sensing", "Senses", [
      ["dual", "Both sides"],
      ["a", "Side a"],
      ["b", "Side b"],
    ]),
    number("cut_in_v", "Closes at", "V"),
    number("cut_in_s", "held for", "s"),
    number("cut_out_v", "Opens at", "V"),
    number("cut_out_s", "held for", "s"),
    RATING,
  ],
  isolator: [
    pick("sort", "Sort", [
      ["silicon", "Silicon diodes"],
      ["schottky", "Schottky diodes"],
      ["fet", "Transistors (FET)"],
    ]),
    RATING,
  ],
  dcdc: [
    number("limit_a", "Gives at most", "A"),
    number("set_v", "Voltage it holds", "V"),
    number("start_v", "Starts when its input has", "V"),
    number("stop_v", "Stops below", "V"),
    number("efficiency", "Efficiency", "0–1"),
    pick("ignition", "Ignition wire", [
      [true, "Runs only with the engine"],
      [false, "None"],
    ]),
  ],
  fuse: [{ name: "device", label: "Sort", sort: "text" }, RATING],
  shunt: [RATING, number("rating_mv", "Drop at its rating", "mV")],
  loads: [],
  starter: [],
};

export const KIND_WORDS: Record<string, string> = {
  alternator: "Alternator",
  charger: "Shore charger",
  solar: "Solar",
  selector: "Four-position selector",
  dual_switch: "Dual-circuit switch",
  switch: "On/off switch",
  breaker: "Breaker",
  relay: "Combining relay",
  isolator: "Isolator",
  dcdc: "dc-dc charger",
  fuse: "Fuse",
  shunt: "Monitor shunt",
  loads: "Feed",
};
