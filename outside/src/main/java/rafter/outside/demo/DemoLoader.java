package rafter.outside.demo;

import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import org.springframework.boot.SpringApplication;
import org.springframework.context.ConfigurableApplicationContext;
import rafter.app.RafterApplication;
import rafter.app.tickets.rules.RuleDesk;

/** Makes the demo world in an empty database: starts the application's services with a clock of its own and lets people act. */
public final class DemoLoader {

    private DemoLoader() {}

    /** Understands {@code --demo.mode} (full or empty), {@code --demo.smtp-port}, {@code --demo.imap-port}, and Rafter's own settings. */
    public static void main(String[] args) throws Exception {
        Instant now = Instant.now(Clock.systemUTC());
        var all = new ArrayList<>(List.of(args));
        all.addAll(List.of(
                "--server.port=0",
                "--server.address=127.0.0.1",
                "--rafter.intake.workers=0",
                "--rafter.intake.watch=false",
                "--rafter.steps.enabled=false",
                "--rafter.errands.enabled=false",
                "--rafter.rules.enabled=false",
                "--rafter.sending.enabled=false",
                "--db-scheduler.enabled=false",
                "--rafter.secret-key=demo-key-not-for-real-use",
                "--logging.level.rafter=warn"));
        var clock = new DemoClock(now.minus(History.LENGTH).minusSeconds(3600));
        var application = new SpringApplication(RafterApplication.class);
        application.addInitializers(context -> context.getBeanFactory().registerSingleton("clock", clock));
        try (ConfigurableApplicationContext context = application.run(all.toArray(new String[0]))) {
            int smtp = context.getEnvironment().getRequiredProperty("demo.smtp-port", Integer.class);
            int imap = context.getEnvironment().getRequiredProperty("demo.imap-port", Integer.class);
            var people = new DemoPeople(context, smtp, imap);
            boolean full =
                    context.getEnvironment().getProperty("demo.mode", "full").equals("full");
            people.settle(now, full);
            if (full) {
                DemoRules.putIntoForce(context, people.named("Ravi Nand").id());
                DemoOthers.askForRatings(context, people.named("Ravi Nand"));
                var mails = new DemoMails(context, people.named("Ravi Nand").id());
                mails.settle();
                new History(context, clock, people, mails, smtp, now).live();
                people.writeDownContacts();
                DemoFields.askByForms(context, people.named("Ravi Nand").id());
                DemoContacts.bringIn(context, people.named("Ravi Nand"));
                DemoPhrases.write(context, people);
                DemoQueues.settle(context, people);
                context.getBean(RuleDesk.class)
                        .rehearse(people.named("Ravi Nand").id());
            }
        }
        System.exit(0);
    }
}
