/** Ports and what their standards allow at 5 V or the negotiated voltage, A. Standards named from memory, to be verified. */
export const USB_PORTS = {
  usb2_unconfigured: { name: "USB 2.0 port, nothing negotiated", volts: 5, allowedA: 0.1, standard: "USB 2.0 (IEC 62680-2-1)" },
  usb2: { name: "USB 2.0 port, configured", volts: 5, allowedA: 0.5, standard: "USB 2.0 (IEC 62680-2-1)" },
  usb3: { name: "USB 3 port, configured", volts: 5, allowedA: 0.9, standard: "USB 3.2 (IEC 62680-3-1)" },
  charging: { name: "charging port", volts: 5, allowedA: 1.5, standard: "Battery Charging 1.2 (IEC 62680-1-1)" },
  c_default: { name: "type C, default current", volts: 5, allowedA: 0.5, standard: "Type-C (IEC 62680-1-3)" },
  c_1a5: { name: "type C, 1.5 A advertised", volts: 5, allowedA: 1.5, standard: "Type-C (IEC 62680-1-3)" },
  c_3a: { name: "type C, 3 A advertised", volts: 5, allowedA: 3, standard: "Type-C (IEC 62680-1-3)" },
  pd_9: { name: "power delivery, 9 V contract", volts: 9, allowedA: 3, standard: "PD (IEC 62680-1-2)" },
  pd_15: { name: "power delivery, 15 V contract", volts: 15, allowedA: 3, standard: "PD (IEC 62680-1-2)" },
  pd_20: { name: "power delivery, 20 V contract", volts: 20, allowedA: 3, standard: "PD (IEC 62680-1-2)" },
  pd_20_5a: { name: "power delivery, 20 V, marked 5 A cable", volts: 20, allowedA: 5, standard: "PD (IEC 62680-1-2)" },
} as const;
/** A kind of USB port. */
export type UsbPortId = keyof typeof USB_PORTS;
/** Kinds of USB ports. */
export const USB_PORT_IDS = Object.keys(USB_PORTS) as [UsbPortId, ...UsbPortId[]];

/** Lowest and highest volts at a 5 V port (USB 2.0, Type-C; from memory, to be verified). */
export const USB_LOW_V = 4.75;
/** Highest volts of a 5 V port (USB Type-C, from memory). */
export const USB_HIGH_V = 5.5;

/** What a supply is made as. */
export const SUPPLY_MAKES = ["enclosed", "adapter", "computer", "bench", "usb", "charger"] as const;
/** One of them. */
export type SupplyMake = (typeof SUPPLY_MAKES)[number];

/** What a supply does when overloaded. */
export const OVERLOADS = ["hiccup", "constant current", "fold-back", "latch-off"] as const;
/** One of them. */
export type Overload = (typeof OVERLOADS)[number];

/** What each kind of supply usually does. All from memory, typical (handbook sources-and-regulators, section 4.1). */
export const SUPPLY_KINDS: Readonly<Record<SupplyMake, { name: string; overload: Overload; peak: number; remark: string }>> = {
  enclosed: {
    name: "enclosed, mains input",
    overload: "hiccup",
    peak: 1.05,
    remark: "Mains on open screws: cover them, fuse and earth it by local code.",
  },
  adapter: { name: "desktop adapter", overload: "hiccup", peak: 1.05, remark: "Its thin cable drops 0.2 to 0.5 V." },
  computer: {
    name: "computer type, several outputs",
    overload: "latch-off",
    peak: 1.1,
    remark: "Needs its power-on wire pulled low and a load on the regulated output.",
  },
  bench: {
    name: "bench supply",
    overload: "constant current",
    peak: 1,
    remark: "Its output capacitor dumps into a short before the limit acts.",
  },
  usb: {
    name: "USB port or charger",
    overload: "fold-back",
    peak: 1,
    remark: "Power banks switch off below 50 to 100 mA after about half a minute.",
  },
  charger: { name: "battery charger", overload: "constant current", peak: 1, remark: "Only one made for this chemistry and cell count." },
};

/** Enclosed supplies as sold: output V by rated W. From memory; ratings at up to 50 °C. */
export const ENCLOSED_VOLTS = [5, 12, 15, 24, 36, 48] as const;
/** Powers that enclosed supplies are usually made in, W. */
export const ENCLOSED_WATTS = [25, 35, 50, 75, 100, 150, 200, 250, 350, 500, 600, 1000] as const;
