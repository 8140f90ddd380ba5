"use client";
import { unstable_rethrow } from "next/navigation";
import { Component, type ReactNode } from "react";
import { BrokeOff } from "./BrokeOff";

interface Props {
  /** What the pane is called in a sentence: "The ledger". */
  what: string;
  /** A pane that broke is tried again when this is another value: another view, part or version of the plan. */
  on?: unknown;
  children: ReactNode;
}

/** Keeps a fault in one pane from taking the workbench and its undo with it. */
export class PaneBoundary extends Component<Props, { broken: boolean; on: unknown }> {
  override state = { broken: false, on: this.props.on };

  static getDerivedStateFromError(problem: unknown): { broken: boolean } {
    // "No such page" and "go elsewhere" travel as errors too; they are the router's.
    unstable_rethrow(problem);
    return { broken: true };
  }

  static getDerivedStateFromProps({ on }: Props, state: { broken: boolean; on: unknown }) {
    return on === state.on ? null : { broken: false, on };
  }

  override render() {
    if (!this.state.broken) return this.props.children;
    return (
      <div className="min-h-0 flex-1 overflow-auto px-3.5 py-2">
        <BrokeOff what={this.props.what} again={() => this.setState({ broken: false })} />
      </div>
    );
  }
}
