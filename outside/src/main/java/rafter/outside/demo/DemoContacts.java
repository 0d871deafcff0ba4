package rafter.outside.demo;

import java.nio.charset.StandardCharsets;
import org.springframework.context.ApplicationContext;
import rafter.app.house.access.Viewer;
import rafter.app.work.imports.Imports;

/** Contacts that were brought in from a file: the members of a club of passengers, with two lines that could not be taken. */
final class DemoContacts {

    private static final String CLUB = """
            Name,Mail address,Telephone,Language
            Nora Tamm,nora.tamm@seamail.example,+999 55 21 101,de
            Edvin Sole,edvin.sole@letterbox.example,+999 55 21 102,
            "Brask, Oda",oda.brask@post.example,+999 55 21 103,nb
            Ilo Varga,ilo.varga@letterbox.example,,hu
            Nobody Known,,+999 55 21 105,
            Runa Aas,runa.aas@seamail.example,+999 55 21 106,nb
            Twice Written,nora.tamm@seamail.example,,
            """;

    private DemoContacts() {}

    static void bringIn(ApplicationContext context, Viewer by) {
        Imports imports = context.getBean(Imports.class);
        long id = imports.take("passengers-club.csv", CLUB.getBytes(StandardCharsets.UTF_8), by);
        imports.begin(id, by);
        imports.run(id);
    }
}
