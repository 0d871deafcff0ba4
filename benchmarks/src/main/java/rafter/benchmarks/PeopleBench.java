package rafter.benchmarks;

import java.sql.Connection;
import java.util.List;

/** How fast contacts and companies are listed, and who may be the same person is found, among a hundred thousand contacts. */
final class PeopleBench {

    private static final int WARM = 200;

    /** Beside the twenty thousand that the tickets belong to: people of two thousand companies, one in a hundred of them twice. */
    private static final String PEOPLE = """
            insert into company (name, plan)
            select 'Works ' || n, case n % 3 when 0 then 'Anchor' when 1 then 'Harbour' else '' end from generate_series(1, 2000) n;
            insert into company_domain (domain, company_id)
            select 'works' || substring(name from 7) || '.example', id from company where name like 'Works %';
            with people as (
                select n, 'Given' || n % 400 as given, 'Family' || n / 40 as family, 'works' || 1 + n % 2000 || '.example' as domain
                from generate_series(1, 80000) n),
            made as (
                insert into contact (name, name_words, company_id, created_at)
                select given || ' ' || family, ' ' || lower(given) || ' ' || lower(family) || ' ', company_id, now()
                from people join company_domain using (domain)
                returning id, name, company_id)
            insert into contact_address (address, contact_id, folded)
            select address, id, address from (
                select lower(replace(name, ' ', '.')) || case when row_number() over (partition by name, company_id) > 1 then 'x' else '' end
                    || '@works' || company_id || '.example' as address, id
                from made) a
            on conflict do nothing;
            insert into contact_phone (contact_id, digits, written, position)
            select id, '99955' || lpad((id % 60000)::text, 6, '0'), '+999 55 ' || id % 60000, 0 from contact where id % 2 = 0;
            """;

    private final int port;

    PeopleBench(int port) {
        this.port = port;
    }

    void run() throws Exception {
        String database = Bench.fresh(port, "rafter_bench_people");
        Child.migrate(database);
        long company;
        long contact;
        try (Connection sql = Bench.connect(database);
                var statement = sql.createStatement()) {
            Bench.fill(sql, 20_000, 5, 1);
            statement.execute(PEOPLE);
            statement.execute("vacuum analyze");
            System.out.println(Bench.one(sql, "select count(*) from contact") + " contacts");
            company = Bench.one(sql, "select min(id) from company where name like 'Works %'");
            contact = Bench.one(sql, "select max(contact_id) from contact_phone");
        }
        try (Child app = Child.start(database, List.of(), "--db-scheduler.enabled=false", "--rafter.intake.workers=0")
                .awaitPort()) {
            var visitor = new Visitor();
            visitor.signIn();
            visitor.measure(pages(contact, company), WARM);
            System.out.println("alive: " + app.alive());
        }
    }

    private static List<String> pages(long contact, long company) {
        return List.of(
                "/people",
                "/people?after=" + contact,
                "/people?q=family7",
                "/people?q=given12+family1200",
                "/people?q=works77.example",
                "/people?q=999550&open=true",
                "/people?open=true",
                "/people?company=" + company,
                "/people/companies",
                "/people/companies/" + company,
                "/contacts/" + contact);
    }
}
