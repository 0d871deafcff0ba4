package rafter.app.arrival.intake;

import org.springframework.stereotype.Component;
import rafter.app.platform.RafterSettings;
import rafter.app.platform.WokenThreads;

/** The threads that process what was received. */
@Component
class IntakeWorkers extends WokenThreads {

    private final Processor processor;

    IntakeWorkers(Processor processor, RafterSettings settings) {
        super("intake", "mail", settings.intake().workers());
        this.processor = processor;
    }

    @Override
    protected boolean work() {
        return processor.processSome() > 0;
    }
}
