"use client";
import { format, parseISO } from "date-fns";
import { useCallback, useEffect, useState } from "react";
import { endPhone, fetchPhones, type PairingCode, type Phones, pairPhone } from "@/state/api";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { Explained } from "../words/Explained";
import { useWorkbench } from "../workbench/context";

/** Phones that may read this machine and add readings: a code for one more, and the end of each pairing. */
export function PhonesDialog({ onClose }: { onClose: () => void }) {
  const id = useWorkbench((state) => state.id);
  const name = useWorkbench((state) => state.machine.name);
  const [phones, setPhones] = useState<Phones | null>(null);
  const [code, setCode] = useState<PairingCode | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const look = useCallback(async () => {
    const found = await fetchPhones(id);
    if ("ok" in found) setTrouble(found.detail);
    else setPhones(found);
  }, [id]);
  useEffect(() => {
    void look();
    const timer = setInterval(() => void look(), LOOK_MS);
    return () => clearInterval(timer);
  }, [look]);
  const ask = async () => {
    const made = await pairPhone(id);
    if ("ok" in made) return setTrouble(made.detail);
    setTrouble(null);
    setCode(made);
  };
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      title="Phones at the machine"
      description={`A paired phone may read ${name} and add readings to it, nothing else.`}
    >
      {trouble && (
        <p role="alert" className="mb-2 text-sm text-stop dark:text-fix">
          {trouble}
        </p>
      )}
      {phones && phones.address === null && (
        <p className="text-sm">
          This Node Ledger listens to this computer alone. Start it with <code className="fig">npm start -- --phone</code> and it opens a
          narrow door to the home network, for phones.
        </p>
      )}
      {phones?.address && (
        <>
          <p className="text-sm">
            Address: <span className="fig">{phones.address}</span>
          </p>
          {code ? (
            <div className="mt-2 flex flex-wrap items-center gap-4">
              {/* biome-ignore lint/performance/noImgElement: a picture that was just made has nothing to be optimised */}
              <img
                src={`data:image/svg+xml;utf8,${encodeURIComponent(code.picture)}`}
                alt={`The address with its code: ${code.url}`}
                width={190}
                height={190}
                className="border border-hair bg-white"
              />
              <p className="text-sm">
                Code <b className="fig text-xl">{code.code}</b>
                <span className="block text-xs text-soft">
                  Works once, until {format(parseISO(code.expiresAt), "HH:mm")}. Point the phone's camera at the picture, or type the code
                  on its page.
                </span>
              </p>
            </div>
          ) : null}
          <Button className="mt-2" onClick={() => void ask()}>
            {code ? "Another code" : "Pair a phone"}
          </Button>
        </>
      )}
      {phones && (
        <section className="mt-4">
          <h3 className="text-sm font-bold">
            <Explained>Paired</Explained>
          </h3>
          {phones.phones.length === 0 ? (
            <p className="text-sm text-soft">No phone is paired with this machine.</p>
          ) : (
            <ul>
              {phones.phones.map((phone) => (
                <li key={phone.id} className="flex items-baseline gap-3 border-b border-hair py-1 text-sm">
                  <span className="min-w-0 flex-1 truncate">{phone.name}</span>
                  <span className="text-xs text-soft">seen {format(parseISO(phone.seenAt), "d MMM HH:mm")}</span>
                  <button
                    type="button"
                    className="link"
                    onClick={async () => {
                      if (await endPhone(id, phone.id)) await look();
                      else setTrouble("The pairing could not be ended. Try again.");
                    }}
                  >
                    End
                  </button>
                </li>
              ))}
            </ul>
          )}
        </section>
      )}
    </Dialog>
  );
}

/** Between two looks at who is paired, ms. */
const LOOK_MS = 3000;
