/** Which figures of a found part are asked for, in the order in which they are read off it. */
import type { Pick } from "@/shared/fields/PickField.vue";

export interface Figure {
  name: string;
  label: string;
  unit?: string;
  sort: "number" | "text" | "pick" | "yes_no" | "device" | "bank" | "marks";
  picks?: Pick[];
  /** Nobody knows it yet: it is to find out. */
  nullable?: boolean;
  /** It may stay empty, and nothing is missing then. */
  optional?: boolean;
  /** Has a usual value that seldom needs a look. */
  rare?: boolean;
}

const number = (name: string, label: string, unit: string, nullable = false): Figure => ({
  name,
  label,
  unit,
  sort: "number",
  nullable,
});
/** A number that overrides a usual one where somebody has read it. */
const own = (name: string, label: string, unit: string): Figure => ({
  name,
  label,
  unit,
  sort: "number",
  optional: true,
});
/** A number that has a usual value and is seldom looked at. */
const usual = (name: string, label: string, unit: string): Figure => ({
  ...number(name, label, unit),
  rare: true,
});
const pick = (name: string, label: string, picks: [Pick["value"], string][], nullable = false) => ({
  name,
  label,
  sort: "pick" as const,
  nullable,
  picks: picks.map(([value, title]) => ({ value, title })),
});
const flag = (name: string, label: string, yes: string, no: string) =>
  pick(name, label, [
    [true, yes],
    [false, no],
  ]);
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
  own("unit_mca_a", "Marine cranking amps, 0 °C", "A"),
  own("unit_tested_cca_a", "Cranking amps, tested", "A"),
  own("unit_resistance_ohm", "Resistance of one, measured", "Ω"),
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
  pick(
    "terminals",
    "Terminals",
    [
      ["tapered", "Tapered posts"],
      ["stud", "Studs with nuts"],
      ["wing_nut", "Wing nuts"],
    ],
    true,
  ),
  yesNo("held", "Held: moves 25 mm at most"),
  yesNo("boxed", "In a tray or box"),
  yesNo("vented", "Space lets gas out"),
  yesNo("boots", "Boots on the positives"),
];

/** Asked of every part beside its own figures. */
export const STUD: Figure = {
  name: "stud",
  label: "Heavy studs",
  sort: "pick",
  optional: true,
  picks: ["M4", "M5", "M6", "M8", "M10", "M12"].map((stud) => ({ value: stud, title: stud })),
};
/** Asked aboard petrol boats. */
export const IGNITION: Figure = {
  name: "ignition_protected",
  label: "Listed as ignition-protected",
  sort: "yes_no",
  nullable: true,
};
const DEVICE: Figure = { name: "device", label: "Type", sort: "device" };
const OVER_BANK: Figure = {
  name: "over_bank",
  label: "Straight above a battery",
  sort: "yes_no",
  nullable: true,
};

const POSITION: Figure = pick("position", "Stands on", [
  ["off", "Off"],
  ["on", "On"],
]);
const ENGINE: Figure = pick("engine", "Engine", [
  ["first", "First"],
  ["second", "Second"],
]);
const DRIVE: Figure = pick("drive", "Driven", [
  ["hand", "By hand"],
  ["latching", "From afar, latches"],
  ["held", "From afar, held by a coil"],
]);
const BRIEF = number("intermittent_a", "Intermittent rating", "A", true);
const RATING = number("rating_a", "Continuous rating", "A");

/** How a source goes on from absorption to float. */
const ENDS: Figure[] = [
  pick("absorption_until", "Absorption ends by", [
    ["time", "Time"],
    ["tail", "Tail current"],
    ["both", "Time, then tail current"],
  ]),
  number("absorption_h", "Absorption lasts", "h"),
  own("tail_a", "Tail current", "A"),
  own("rebulk_v", "Begins anew below", "V"),
  own("bulk_v", "Bulk goes on to", "V"),
  own("bulk_least_h", "Bulk lasts at least", "h"),
  own("equalise_v", "Equalises at", "V"),
  { name: "temperature_sensor", label: "Temperature sensor on", sort: "bank", optional: true },
  own("tempco_mv_per_k", "Compensates, from 25 °C", "mV/K"),
];
const IDLE = own("idle_a", "Draws by itself", "A");
const MARKS: Figure = { name: "marks", label: "What stands on it", sort: "marks", optional: true };
const STAGES: Figure[] = [own("float_v", "Float, if it has one", "V"), ...ENDS];

export const GEAR_FIGURES: Record<string, Figure[]> = {
  alternator: [
    number("rated_a", "Rated current", "A"),
    number("set_v", "Voltage it holds", "V"),
    pick("sensing", "Senses", [
      ["machine", "At the machine"],
      ["external", "By leads of its own"],
    ]),
    number("belt_limit_a", "Limited to", "A", true),
    pick(
      "belt",
      "Belt",
      [
        ["v_10", "One 10 mm V"],
        ["v_13", "One 13 mm V"],
        ["two_v_10", "Two 10 mm V"],
        ["two_v_13", "Two 13 mm V"],
        ["rib_6", "6 ribs"],
        ["rib_8", "8 ribs"],
      ],
      true,
    ),
    yesNo("temperature_probe", "Temperature probe"),
    yesNo("surge_clamp", "Surge clamp"),
    usual("hot_share", "Hot output, of its rating", "0–1"),
    own("field_limit", "Field limited to, of its output", "0–1"),
    own("start_delay_s", "Waits after the start", "s"),
    usual("cut_in_rpm", "Cuts in at", "rpm"),
    usual("full_rpm", "Full output at", "rpm"),
    pick(
      "excitation",
      "Starts on",
      [
        ["own", "A voltage of its own"],
        ["output", "The voltage at its output"],
      ],
      true,
    ),
    ...STAGES,
    ENGINE,
  ],
  charger: [
    number("rated_a", "Rated current", "A"),
    number("outputs", "Outputs", ""),
    number("set_v", "Absorption", "V"),
    number("float_v", "Float", "V"),
    ...ENDS,
    own("out2_set_v", "Output 2: absorption", "V"),
    own("out2_float_v", "Output 2: float", "V"),
    own("out3_set_v", "Output 3: absorption", "V"),
    own("out3_float_v", "Output 3: float", "V"),
    OVER_BANK,
  ],
  solar: [
    number("panel_w", "Panels", "W"),
    pick("controller", "Controller", [
      ["mppt", "Tracking (MPPT)"],
      ["pwm", "Switching (PWM)"],
    ]),
    number("set_v", "Absorption", "V"),
    ...STAGES,
    usual("efficiency", "Efficiency of the controller", "0–1"),
    usual("panel_vmp_v", "Panel volts at full power", "V"),
    IDLE,
  ],
  selector: [
    RATING,
    BRIEF,
    yesNo("make_before_break", "Makes before it breaks"),
    pick("position", "Stands on", [
      ["off", "Off"],
      ["1", "1"],
      ["both", "Both"],
      ["2", "2"],
    ]),
    MARKS,
  ],
  dual_switch: [
    RATING,
    BRIEF,
    DRIVE,
    pick("position", "Stands on", [
      ["off", "Off"],
      ["on", "On"],
      ["combine", "Combine"],
    ]),
    MARKS,
  ],
  switch: [
    RATING,
    BRIEF,
    DRIVE,
    pick("purpose", "What it does", [
      ["isolate", "Cuts off"],
      ["parallel", "Joins two banks"],
    ]),
    POSITION,
    MARKS,
  ],
  breaker: [DEVICE, RATING, own("interrupt_a", "Breaks, by its listing", "A"), POSITION],
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
    own("cut_in_high_v", "Closes sooner at", "V"),
    own("cut_in_high_s", "Closes sooner after", "s"),
    own("cut_out_low_v", "Opens sooner at", "V"),
    own("cut_out_low_s", "Opens sooner after", "s"),
    own("opens_after_s", "Opens after charging, as measured", "s"),
    usual("lock_low_v", "Locked out below", "V"),
    usual("lock_high_v", "Locked out above", "V"),
    own("peak_a", "Rating for seconds", "A"),
    IDLE,
    own("closed_a", "Draws by itself, closed", "A"),
    flag("start_isolation", "While cranking", "Held open", "As it sees"),
    flag("ignition", "Ignition wire", "Works only with the engine", "None"),
    flag("lamp", "Remote lamp", "Has one", "None"),
    number("negative_fuse_a", "Fuse in its thin negative", "A", true),
  ],
  isolator: [
    pick("sort", "Sort", [
      ["silicon", "Silicon diodes"],
      ["schottky", "Schottky diodes"],
      ["fet", "Transistors (FET)"],
    ]),
    RATING,
    flag("excitation_post", "Excitation post", "Has one", "None"),
    own("drop_v", "Drop at its rating", "V"),
  ],
  one_way: [
    number("limit_a", "Passes at most", "A"),
    number("start_v", "Starts when its input has", "V"),
    number("stop_v", "Stops below", "V"),
    own("delay_s", "Held for", "s"),
    IDLE,
  ],
  protection: [
    RATING,
    number("high_v", "Opens above", "V"),
    number("low_v", "Opens below", "V"),
    number("charge_limit_a", "Charge at most", "A", true),
    number("discharge_limit_a", "Discharge at most", "A", true),
    usual("no_charge_below_c", "No charge below", "°C"),
    IDLE,
  ],
  generator: [number("set_v", "Voltage it holds", "V"), ...STAGES],
  inverter: [
    number("rated_w", "Rated power", "W"),
    number("idle_w", "Idle draw", "W"),
    number("cut_out_v", "Cuts out below", "V"),
    own("return_v", "Comes back at", "V"),
    number("charger_a", "Charges with", "A", true),
    number("set_v", "Absorption", "V"),
    number("float_v", "Float", "V"),
    OVER_BANK,
    POSITION,
    ...ENDS,
  ],
  dcdc: [
    number("limit_a", "Gives at most", "A"),
    number("set_v", "Voltage it holds", "V"),
    number("start_v", "Starts when its input has", "V"),
    number("stop_v", "Stops below", "V"),
    own("input_limit_a", "Takes at most", "A"),
    own("delay_s", "Start and stop held for", "s"),
    number("efficiency", "Efficiency", "0–1"),
    IDLE,
    flag("ignition", "Ignition wire", "Runs only with the engine", "None"),
    flag("isolated", "Negatives", "Kept apart", "Shared"),
    ...STAGES,
  ],
  fuse: [DEVICE, RATING, own("interrupt_a", "Breaks, by its listing", "A")],
  shunt: [RATING, number("rating_mv", "Drop at its rating", "mV"), IDLE],
  loads: [],
  starter: [
    number("cranking_a", "Cranking current", "A"),
    own("min_v", "Least volts, by its maker", "V"),
    own("peak_a", "In the first instant", "A"),
    own("free_a", "Running free", "A"),
    ENGINE,
  ],
  fuse_block: [DEVICE],
  bus_bar: [number("rating_a", "Carries for long", "A", true), number("studs", "Studs", "")],
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
  one_way: "One-way combiner",
  protection: "Protection",
  generator: "Generator",
  inverter: "Inverter",
  fuse_block: "Fused bus",
  bus_bar: "Bus bar",
  bank: "Bank",
  starter: "Starter",
  fuse: "Fuse",
  shunt: "Monitor shunt",
  loads: "Feed",
};
