package rafter.outside.demo;

import java.util.List;

/** Who is in the demo world. Everybody and everything here is made up. */
public final class Cast {

    /** Somebody who writes to the ferry line. */
    public record Someone(String name, String address, String firm) {}

    /** A company with its plan and mail domain. */
    public record Firm(String name, String plan, String domain) {}

    /** Somebody who works for the ferry line. */
    public record Worker(String name, String address, String role, List<String> teams) {}

    /** A mailbox of the ferry line. */
    public record Box(String name, String address, String team) {}

    /** The password of everybody who works there. */
    public static final String PASSWORD = "high-water-mark";

    public static final String LINE = "Tern Passage Ferries";

    public static final List<String> TEAMS = List.of("Passengers", "Freight desk", "Lost property", "Key accounts");

    public static final List<Box> MAILBOXES = List.of(
            new Box("Tern Passage Ferries", "help@ternpassage.example", "Passengers"),
            new Box("Tern Passage Freight", "freight@ternpassage.example", "Freight desk"));

    public static final List<Worker> WORKERS = List.of(
            new Worker("Imani Okoro", "imani@ternpassage.example", "AGENT", List.of("Passengers", "Freight desk")),
            new Worker("Jonas Weir", "jonas@ternpassage.example", "AGENT", List.of("Freight desk")),
            new Worker("Priya Raman", "priya@ternpassage.example", "AGENT", List.of("Passengers", "Key accounts")),
            new Worker("Sefa Tui", "sefa@ternpassage.example", "AGENT", List.of("Passengers", "Lost property")),
            new Worker("Marta Kowal", "marta@ternpassage.example", "AGENT", List.of("Lost property", "Passengers")),
            new Worker("Odile Bran", "odile@ternpassage.example", "LEAD", List.of("Passengers", "Key accounts")),
            new Worker("Ravi Nand", "ravi@ternpassage.example", "ADMINISTRATOR", List.of()));

    /** Who works elsewhere and knows what colleagues do not. */
    public static final List<Someone> EXPERTS = List.of(
            new Someone("Ilse Varga", "ilse@quaycustoms.example", "Quay Customs"),
            new Someone("Tobin Marsh", "tobin@coldhold.example", "Coldhold Engineering"));

    public static final List<Firm> FIRMS = List.of(
            new Firm("Brightwater Produce", "Anchor", "brightwater.example"),
            new Firm("Vessa Brewing Co.", "Anchor", "vessabrewing.example"),
            new Firm("Oakum & Daughters", "Harbour", "oakum.example"),
            new Firm("North Quill School", "Harbour", "northquillschool.example"));

    public static final List<Someone> PEOPLE = List.of(
            new Someone("Dov Reiss", "dov.reiss@brightwater.example", "Brightwater Produce"),
            new Someone("Marlene Achter", "marlene.achter@brightwater.example", "Brightwater Produce"),
            new Someone("Tamsin Okafor", "tamsin@vessabrewing.example", "Vessa Brewing Co."),
            new Someone("Bram Lindqvist", "bram@vessabrewing.example", "Vessa Brewing Co."),
            new Someone("Per Aamodt", "per.aamodt@oakum.example", "Oakum & Daughters"),
            new Someone("Sunniva Oakum", "sunniva@oakum.example", "Oakum & Daughters"),
            new Someone("Ana Quist", "a.quist@northquillschool.example", "North Quill School"),
            new Someone("Henrik Solbakk", "h.solbakk@northquillschool.example", "North Quill School"),
            new Someone("Noor Haddad", "noor.haddad@post.example", ""),
            new Someone("Lena Fairweather", "lena.fairweather@letterbox.example", ""),
            new Someone("Yusra Bello", "yusra.bello@post.example", ""),
            new Someone("Ilse Brandt", "ilse.brandt@seamail.example", ""),
            new Someone("Tomas Vik", "tomas.vik@post.example", ""),
            new Someone("Greta Moen", "greta.moen@letterbox.example", ""),
            new Someone("Oskar Dahl", "oskar.dahl@seamail.example", ""),
            new Someone("Fatou Sarr", "fatou.sarr@post.example", ""),
            new Someone("Wen Zhao", "wen.zhao@letterbox.example", ""),
            new Someone("Piotr Zielny", "piotr.zielny@post.example", ""),
            new Someone("Cecily Marsh", "cecily.marsh@seamail.example", ""),
            new Someone("Anders Holt", "anders.holt@post.example", ""),
            new Someone("Beatriz Leal", "beatriz.leal@letterbox.example", ""),
            new Someone("Mikkel Rønne", "mikkel.ronne@post.example", ""),
            new Someone("Aoife Tarrant", "aoife.tarrant@seamail.example", ""),
            new Someone("Jürgen Paulsen", "juergen.paulsen@letterbox.example", ""),
            new Someone("Salma Idris", "salma.idris@post.example", ""),
            new Someone("Kaisa Nurmi", "kaisa.nurmi@seamail.example", ""),
            new Someone("Rowan Pell", "rowan.pell@post.example", ""),
            new Someone("Ingrid Stav", "ingrid.stav@letterbox.example", ""),
            new Someone("Emeka Nwosu", "emeka.nwosu@post.example", ""),
            new Someone("Hanna Lund", "hanna.lund@seamail.example", ""));

    /** With what the ferry line and its exchange sign; for the demo alone. */
    public static final String EXCHANGE_SECRET = "demo-exchange-secret-not-for-real-use";

    /** The same for the network. */
    public static final String NETWORK_SECRET = "demo-network-secret-not-for-real-use";

    /** A telephone line of the ferry line. */
    public record Line(String number, String name, String team, boolean recorded) {}

    public static final List<Line> LINES = List.of(
            new Line("+999 32 960 100", "Bookings", "Passengers", true),
            new Line("+999 32 960 140", "Freight", "Freight desk", false));

    /** Somebody who calls, with a number that no telephone has. */
    public record Caller(String name, String number) {}

    public static final List<Caller> CALLERS = List.of(
            new Caller("Dov Reiss", "+999 32 960 211"),
            new Caller("Tamsin Okafor", "+999 32 960 233"),
            new Caller("Per Aamodt", "+999 32 960 254"),
            new Caller("Ana Quist", "+999 32 960 278"),
            new Caller("Noor Haddad", "+999 32 960 302"),
            new Caller("Greta Moen", "+999 32 960 327"),
            new Caller("somebody unknown", "+999 32 960 999"),
            new Caller("a hidden number", ""));

    /** Accounts of the ferry line on the network. */
    public static final List<Line> ACCOUNTS = List.of(
            new Line("@ternpassage", "Tern Passage", "Passengers", false),
            new Line("@ternfreight", "Tern Passage Freight", "Freight desk", false));

    /** Somebody who writes on the network. */
    public record Voice(String handle, String name, String about, int followers) {}

    public static final List<Voice> VOICES = List.of(
            new Voice("@ternpassage", "Tern Passage Ferries", "Four towns, two vessels.", 4210),
            new Voice("@ternfreight", "Tern Passage Freight", "Slots by the metre.", 612),
            new Voice("@noorontheroad", "Noor", "Four wheels, two of them large.", 890),
            new Voice("@brambrews", "Bram L.", "Beer crosses water, too.", 1530),
            new Voice("@skelbyview", "Skelby View", "A window on the harbour.", 3120),
            new Voice("@oskardahl", "Oskar Dahl", "Commutes by boat.", 148),
            new Voice("@wenpaints", "Wen Z", "Watercolours of weather.", 402),
            new Voice("@hannalund", "Hanna Lund", "", 77),
            new Voice("@kaisan", "Kaisa N.", "Reads on deck.", 215),
            new Voice("@piotrz", "Piotr", "Lorries and long bridges.", 96),
            new Voice("@fatousarr", "Fatou Sarr", "Teaches at North Quill.", 331),
            new Voice("@harbourlottery", "Harbour Lottery", "WIN WIN WIN", 12),
            new Voice("@cecilym", "Cecily", "Two dogs, one ticket.", 264),
            new Voice("@rowanpell", "Rowan Pell", "", 58));

    private Cast() {}
}
