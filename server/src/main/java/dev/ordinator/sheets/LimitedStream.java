package dev.ordinator.sheets;

import dev.ordinator.platform.Problem;
import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;

/** What somebody sends, refused when it is too long. */
final class LimitedStream extends FilterInputStream {
  private final long most;
  private long seen;

  LimitedStream(InputStream in, long most) {
    super(in);
    this.most = most;
  }

  @Override
  public int read() throws IOException {
    int one = super.read();
    count(one < 0 ? 0 : 1);
    return one;
  }

  @Override
  public int read(byte[] into, int from, int length) throws IOException {
    int got = super.read(into, from, length);
    count(Math.max(0, got));
    return got;
  }

  private void count(int more) {
    seen += more;
    if (seen > most) {
      throw Problem.invalid("file", "a file may have %d MB".formatted(most / 1024 / 1024));
    }
  }
}
