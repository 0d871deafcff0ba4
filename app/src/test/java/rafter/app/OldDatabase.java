package rafter.app;

import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import org.flywaydb.core.Flyway;

/** A database as an earlier version left it, to be filled and then brought to the version of today. */
public final class OldDatabase implements AutoCloseable {

    private static final String LOGIN = "rafter";

    private final String url;
    private final Connection connection;
    private final Statement statement;

    private OldDatabase(String url) throws SQLException {
        this.url = url;
        this.connection = connect(url);
        this.statement = connection.createStatement();
    }

    /**
     * Makes one anew.
     *
     * @param version the last migration that it has
     */
    public static OldDatabase of(String name, String version) throws SQLException {
        String build = System.getProperty("rafter.test.db.url");
        try (Connection connection = connect(build);
                Statement statement = connection.createStatement()) {
            statement.execute("drop database if exists " + name + " with (force)");
            statement.execute("create database " + name);
        }
        String url = build.replaceFirst("/[^/]*$", "/" + name);
        migrate(url, version);
        return new OldDatabase(url);
    }

    private static Connection connect(String url) throws SQLException {
        return DriverManager.getConnection(url, LOGIN, LOGIN);
    }

    private static void migrate(String url, String target) {
        Flyway.configure()
                .dataSource(url, LOGIN, LOGIN)
                .locations("classpath:db/migration")
                .target(target)
                .load()
                .migrate();
    }

    /** For asking and filling it. */
    public Statement statement() {
        return statement;
    }

    /** Brings it to the version of today. */
    public void upgrade() {
        migrate(url, "latest");
    }

    @Override
    public void close() throws SQLException {
        connection.close();
    }
}
