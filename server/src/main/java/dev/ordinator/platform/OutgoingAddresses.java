package dev.ordinator.platform;

import java.net.Inet6Address;
import java.net.InetAddress;
import java.net.URI;
import java.net.URISyntaxException;
import java.net.UnknownHostException;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.stereotype.Component;

/**
 * Where people may have the application speak to: the open internet, and its own network only if
 * {@code ordinator.private-addresses} says so. Otherwise whoever may name an address could reach
 * what only this machine reaches (server-side request forgery, CWE-918).
 *
 * <p>It is looked at when an address is kept, and again before each request, for a name may lead
 * elsewhere by then. The Java runtime remembers for some seconds what a name leads to, so the
 * request goes where it was looked at.
 */
@Component
public class OutgoingAddresses {
  private static final int LONGEST = 400;

  private final boolean privateToo;

  @Autowired
  OutgoingAddresses(OrdinatorSettings settings) {
    this(settings.privateAddresses());
  }

  OutgoingAddresses(boolean privateToo) {
    this.privateToo = privateToo;
  }

  /** An address to which nothing is sent. */
  public static final class Forbidden extends RuntimeException {
    private static final long serialVersionUID = 1L;

    Forbidden(String message) {
      super(message);
    }
  }

  /**
   * An address that a person typed, without blanks around it and slashes at its end.
   *
   * @param field that it was typed into
   * @throws Problem if it is none, holds a password, or leads into our own network
   */
  public URI typed(String text, String field) {
    URI address;
    try {
      address = new URI(text.strip().replaceAll("/+$", ""));
    } catch (URISyntaxException e) {
      throw Problem.invalid(field, "‘" + Texts.cut(text, 80) + "’ is no address");
    }
    boolean web = "https".equals(address.getScheme()) || "http".equals(address.getScheme());
    if (!web || address.getHost() == null || text.length() > LONGEST) {
      throw Problem.invalid(field, "an address begins with https://");
    }
    if (address.getRawUserInfo() != null) {
      throw Problem.invalid(field, "an address holds no name and no password");
    }
    try {
      require(address);
    } catch (Forbidden e) {
      throw Problem.invalid(field, Texts.of(e));
    }
    return address;
  }

  /**
   * @throws Forbidden if it leads into our own network. A name that leads nowhere is let through:
   *     the request will say so
   */
  public void require(URI address) {
    if (privateToo) {
      return;
    }
    try {
      for (InetAddress at : InetAddress.getAllByName(address.getHost())) {
        if (isOurs(at)) {
          throw new Forbidden(
              address.getHost() + " is in our own network; a setting must allow that first");
        }
      }
    } catch (UnknownHostException e) {
      // nothing can be sent there either
    }
  }

  private static boolean isOurs(InetAddress at) {
    return at.isLoopbackAddress()
        || at.isAnyLocalAddress()
        || at.isLinkLocalAddress()
        || at.isSiteLocalAddress()
        || at.isMulticastAddress()
        || isShared(at.getAddress())
        || at instanceof Inet6Address && (at.getAddress()[0] & 0xfe) == 0xfc;
  }

  /** 100.64.0.0/10, behind which providers hide several of their customers (RFC 6598). */
  private static boolean isShared(byte[] at) {
    return at.length == 4 && at[0] == 100 && (at[1] & 0xc0) == 64;
  }
}
