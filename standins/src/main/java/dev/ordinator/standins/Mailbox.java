package dev.ordinator.standins;

import static dev.ordinator.standins.Web.escape;

import com.icegreen.greenmail.util.GreenMail;
import com.icegreen.greenmail.util.ServerSetup;
import jakarta.mail.MessagingException;
import jakarta.mail.internet.MimeMessage;
import java.io.IOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;

/**
 * Takes mail for everybody over real SMTP, and shows it. Like many mail stores, keeps a Message-ID
 * once.
 */
public final class Mailbox implements AutoCloseable {
  private final GreenMail smtp;
  private final Web web;

  /** A mail as its reader sees it. */
  public record Mail(String id, String to, String subject, String text) {}

  Mailbox(int smtpPort, int webPort) throws IOException {
    ServerSetup setup = new ServerSetup(smtpPort, "127.0.0.1", ServerSetup.PROTOCOL_SMTP);
    setup.setServerStartupTimeout(5_000);
    smtp = new GreenMail(smtpPort == 0 ? setup.dynamicPort() : setup);
    smtp.start();
    web = new Web(webPort, this::handle);
  }

  public int smtpPort() {
    return smtp.getSmtp().getPort();
  }

  public int port() {
    return web.port();
  }

  /** What has come, oldest first; a repeat of a Message-ID is not kept. */
  public List<Mail> mails() {
    Map<String, Mail> byId = new LinkedHashMap<>();
    for (MimeMessage message : smtp.getReceivedMessages()) {
      Mail mail = read(message);
      byId.putIfAbsent(mail.id(), mail);
    }
    return new ArrayList<>(byId.values());
  }

  /** How many messages came, repeats included. */
  public int received() {
    return smtp.getReceivedMessages().length;
  }

  private static Mail read(MimeMessage message) {
    try {
      return new Mail(
          message.getMessageID(),
          message.getAllRecipients()[0].toString(),
          message.getSubject(),
          String.valueOf(message.getContent()));
    } catch (MessagingException | IOException e) {
      throw new IllegalStateException(e);
    }
  }

  private Web.Answer handle(Web.Request request) {
    return Web.Answer.html(
        "Mail",
        mails().reversed().stream()
            .limit(50)
            .map(m ->
                "<h2>%s</h2><p>to %s</p><pre>%s</pre>"
                    .formatted(escape(m.subject()), escape(m.to()), escape(m.text())))
            .collect(Collectors.joining()));
  }

  @Override
  public void close() {
    smtp.stop();
    web.close();
  }
}
