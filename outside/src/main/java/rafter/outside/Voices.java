package rafter.outside;

import java.time.Duration;
import java.util.List;
import java.util.Random;
import rafter.outside.demo.Cast;
import rafter.outside.demo.DemoVoices;

/** People who call and who write on the network while the demo runs. */
final class Voices {

    private static final Duration PATIENCE = Duration.ofSeconds(75);

    private final Telephones telephones;
    private final Gangway gangway;
    private final Random random = new Random();

    Voices(Telephones telephones, Gangway gangway) {
        this.telephones = telephones;
        this.gangway = gangway;
    }

    /** Begins, each on a thread of their own. */
    void start() {
        thread("callers", this::call);
        thread("posters", this::post);
    }

    private static void thread(String name, Runnable work) {
        Thread thread = new Thread(work, name);
        thread.setDaemon(true);
        thread.start();
    }

    private void call() {
        try {
            while (true) {
                Thread.sleep(Duration.ofSeconds(60 + random.nextInt(240)));
                Cast.Caller caller = Cast.CALLERS.get(random.nextInt(Cast.CALLERS.size()));
                String id = telephones.ring(
                        caller.number(),
                        Cast.LINES.get(random.nextInt(Cast.LINES.size())).number());
                Thread.sleep(PATIENCE.multipliedBy(1 + random.nextInt(3)));
                // Who still waits gives up, or speaks on the machine; who talks has said it by now.
                if (random.nextBoolean()) {
                    telephones.speak(id, 8 + random.nextInt(40));
                }
                telephones.end(id);
            }
        } catch (InterruptedException over) {
            Thread.currentThread().interrupt();
        }
    }

    private void post() {
        try {
            while (true) {
                Thread.sleep(Duration.ofSeconds(50 + random.nextInt(160)));
                List<DemoVoices.Said> all = DemoVoices.SAID;
                DemoVoices.Said said = all.get(random.nextInt(all.size()));
                String id = gangway.write(said.handle(), said.text(), "", false, "");
                if (random.nextInt(3) == 0) {
                    gangway.like(id);
                }
            }
        } catch (InterruptedException over) {
            Thread.currentThread().interrupt();
        }
    }
}
