import { Component, type ReactNode } from "react";
import { Button } from "../kit/Button";
import { Line, StopNote } from "../kit/page";
import { NotCome } from "./page";

interface Props {
  /** Where one is: what failed there is forgotten on the way to another place. */
  at: string;
  children: ReactNode;
}

/** What a page that breaks leaves: the frame stands, and there is a way on. */
export class Failing extends Component<Props, { error: Error | null; at: string }> {
  state = { error: null as Error | null, at: this.props.at };

  static getDerivedStateFromError(error: Error) {
    return { error };
  }

  static getDerivedStateFromProps(props: Props, state: { at: string }) {
    return props.at === state.at ? null : { error: null, at: props.at };
  }

  render() {
    const { error } = this.state;
    if (!error) return this.props.children;
    // What did not come is not asked for again without reloading.
    const isAway = error instanceof NotCome;
    return (
      <StopNote title={isAway ? "This part of Flaneur did not come." : "This page broke."}>
        <div>
          {isAway
            ? "The server is away, or was renewed since this page was opened."
            : `What it said: ${error.message.slice(0, 200)}`}
        </div>
        <div>
          Nothing that was recorded is lost, and what you typed and did not send stays here.
        </div>
        <Line>
          {!isAway && (
            <Button look="main" onPress={() => this.setState({ error: null })}>
              Try again
            </Button>
          )}
          <Button look={isAway ? "main" : "plain"} onPress={() => location.reload()}>
            Reload everything
          </Button>
        </Line>
      </StopNote>
    );
  }
}
