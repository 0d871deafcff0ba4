package rafter.outside;

import com.icegreen.greenmail.Managers;
import com.icegreen.greenmail.imap.ImapHandler;
import com.icegreen.greenmail.server.AbstractServer;
import com.icegreen.greenmail.server.ProtocolHandler;
import com.icegreen.greenmail.smtp.SmtpHandler;
import com.icegreen.greenmail.smtp.SmtpServer;
import com.icegreen.greenmail.util.GreenMail;
import com.icegreen.greenmail.util.ServerSetup;
import java.net.Socket;
import java.net.SocketException;
import java.util.HashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * The mail servers, which send each line at once. Without that every answer of several lines waits 40 ms, for the library writes
 * them one by one and the system holds back the second until the first is acknowledged.
 */
final class PromptServers extends GreenMail {

    /** Set while the library's constructor runs, so it must have no initialiser. */
    private @Nullable Map<String, AbstractServer> made;

    PromptServers(ServerSetup smtp, ServerSetup imap) {
        super(new ServerSetup[] {smtp, imap});
    }

    /** The port on which the server of a protocol listens. */
    int port(String protocol) {
        Map<String, AbstractServer> servers = made;
        AbstractServer server = servers == null ? null : servers.get(protocol);
        if (server == null) {
            throw new IllegalStateException("no server for " + protocol);
        }
        return server.getPort();
    }

    @Override
    protected Map<String, AbstractServer> createServices(ServerSetup[] setups, Managers managers) {
        var services = new HashMap<String, AbstractServer>();
        for (ServerSetup setup : setups) {
            services.put(
                    setup.getProtocol(),
                    setup.getProtocol().equals(ServerSetup.PROTOCOL_SMTP)
                            ? smtp(setup, managers)
                            : imap(setup, managers));
        }
        made = services;
        return services;
    }

    private static AbstractServer smtp(ServerSetup setup, Managers managers) {
        return new SmtpServer(setup, managers) {
            @Override
            protected ProtocolHandler createProtocolHandler(Socket socket) {
                return new SmtpHandler(new SteadyCommands(), managers.getSmtpManager(), prompt(socket));
            }
        };
    }

    private static AbstractServer imap(ServerSetup setup, Managers managers) {
        return new AbstractServer(setup, managers) {
            @Override
            protected ProtocolHandler createProtocolHandler(Socket socket) {
                return new ImapHandler(managers.getUserManager(), managers.getImapHostManager(), prompt(socket));
            }
        };
    }

    private static Socket prompt(Socket socket) {
        try {
            socket.setTcpNoDelay(true);
            return socket;
        } catch (SocketException e) {
            throw new IllegalStateException("the connection is gone already", e);
        }
    }
}
