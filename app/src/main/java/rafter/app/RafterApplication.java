package rafter.app;

import org.springframework.boot.SpringApplication;
import org.springframework.boot.autoconfigure.SpringBootApplication;
import org.springframework.boot.context.properties.ConfigurationPropertiesScan;
import rafter.app.platform.MailLibrary;

/** The application. */
@SpringBootApplication
@ConfigurationPropertiesScan
@org.springframework.scheduling.annotation.EnableScheduling
public class RafterApplication {

    static {
        // The mail library reads these once, when the first of its classes is loaded.
        MailLibrary.settle();
    }

    public static void main(String[] args) {
        SpringApplication.run(RafterApplication.class, args);
    }
}
