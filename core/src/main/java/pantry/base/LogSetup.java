package pantry.base;

import ch.qos.logback.classic.Level;
import ch.qos.logback.classic.LoggerContext;
import ch.qos.logback.classic.encoder.PatternLayoutEncoder;
import ch.qos.logback.classic.spi.Configurator;
import ch.qos.logback.classic.spi.ILoggingEvent;
import ch.qos.logback.core.ConsoleAppender;
import ch.qos.logback.core.spi.ContextAwareBase;
import org.slf4j.Logger;

/**
 * What is logged and how: warnings and worse, a line each on standard error. Said in code because a program that is waited for
 * would first read an XML parser. A configuration file that is named or stands on the class path for tests goes before it.
 */
public final class LogSetup extends ContextAwareBase implements Configurator {
    /** Control characters and those that turn the direction of text would let a file's name change what a terminal shows. */
    private static final String PATTERN =
            "%d{HH:mm:ss} %-5level %logger{0} %replace(%msg){'[\\p{Cntrl}\\u202a-\\u202e\\u2066-\\u2069]', '?'}%n%nopex";

    @Override
    public ExecutionStatus configure(LoggerContext context) {
        if (System.getProperty("logback.configurationFile") != null
                || LogSetup.class.getResource("/logback-test.xml") != null) {
            return ExecutionStatus.INVOKE_NEXT_IF_ANY;
        }
        PatternLayoutEncoder encoder = new PatternLayoutEncoder();
        encoder.setContext(context);
        encoder.setPattern(PATTERN);
        encoder.start();
        ConsoleAppender<ILoggingEvent> appender = new ConsoleAppender<>();
        appender.setContext(context);
        appender.setName("STDERR");
        appender.setTarget("System.err");
        appender.setEncoder(encoder);
        appender.start();
        ch.qos.logback.classic.Logger root = context.getLogger(Logger.ROOT_LOGGER_NAME);
        root.setLevel(Level.WARN);
        root.addAppender(appender);
        context.getLogger("org.flywaydb").setLevel(Level.ERROR);
        return ExecutionStatus.DO_NOT_INVOKE_NEXT_IF_ANY;
    }
}
