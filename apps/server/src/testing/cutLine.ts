import { connect, createServer, type AddressInfo, type Socket } from "node:net";

/** A line to a database that can be cut, as when it goes away, and mended. */
export class CutLine {
  private readonly open = new Set<Socket>();
  private isCut = false;
  private readonly server;

  private constructor(to: { host: string; port: number }) {
    this.server = createServer((near) => {
      if (this.isCut) return void near.destroy();
      const far = connect(to);
      for (const end of [near, far]) {
        this.open.add(end);
        end.on("error", () => undefined);
        end.on("close", () => (this.open.delete(end), near.destroy(), far.destroy()));
      }
      near.pipe(far).pipe(near);
    });
  }

  /** A line to the database of an address; gives the address through it. */
  static async to(url: string): Promise<{ line: CutLine; url: string }> {
    const there = new URL(url);
    const line = new CutLine({ host: there.hostname, port: Number(there.port) });
    await new Promise<void>((resolve) => line.server.listen(0, "127.0.0.1", resolve));
    there.port = String((line.server.address() as AddressInfo).port);
    return { line, url: there.toString() };
  }

  /** Ends every connection, in the middle of whatever it does, and takes no more. */
  cut(): void {
    this.isCut = true;
    for (const socket of this.open) socket.destroy();
  }

  mend(): void {
    this.isCut = false;
  }

  close(): Promise<void> {
    this.cut();
    return new Promise((resolve) => void this.server.close(() => resolve()));
  }
}
