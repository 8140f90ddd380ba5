"use client";
import { useState } from "react";
import { measured } from "@/core/machine/figure";
import type { Wire } from "@/core/machine/schema";
import { parseSize } from "@/core/machine/typed";
import { parseQuantity } from "@/core/quantity/parse";
import { Field } from "../kit/Field";

type Conductor = Partial<Pick<Wire, "gauge" | "lengthM">>;

/** Length and size of a new conductor, both of which may stay unknown; `read` gives null after showing what is wrong. */
export function useConductorFields() {
  const [length, setLength] = useState("");
  const [gauge, setGauge] = useState("");
  const [errors, setErrors] = useState<{ length?: string; gauge?: string }>({});

  const read = (): Conductor | null => {
    const metres = length.trim() === "" ? null : parseQuantity(length, "length");
    const size = gauge.trim() === "" ? null : parseSize(gauge);
    const wrong = { ...(metres && !metres.ok ? { length: metres.message } : {}), ...(size && !size.ok ? { gauge: size.message } : {}) };
    setErrors(wrong);
    if (Object.keys(wrong).length > 0) return null;
    return {
      ...(size?.ok ? { gauge: size.value } : {}),
      ...(metres?.ok ? { lengthM: measured(metres.value) } : {}),
    };
  };
  const fields = (
    <>
      <Field label="Length, one way" error={errors.length ?? null}>
        {(props) => (
          <input
            {...props}
            className="fig field w-full"
            value={length}
            placeholder="not known, e.g. 1.8 m or 3 ft"
            onChange={(event) => setLength(event.target.value)}
          />
        )}
      </Field>
      <Field label="Conductor" error={errors.gauge ?? null}>
        {(props) => (
          <input
            {...props}
            className="fig field w-full"
            value={gauge}
            placeholder="not known, e.g. 14awg or 1.5mm2"
            onChange={(event) => setGauge(event.target.value)}
          />
        )}
      </Field>
    </>
  );
  return { fields, read };
}
