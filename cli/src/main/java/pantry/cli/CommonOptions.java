package pantry.cli;

import picocli.CommandLine.Option;

/** What every command takes. */
final class CommonOptions {
    @Option(names = "--json", description = "Print one JSON document instead of text.")
    boolean json;

    @Option(
            names = {"-h", "--help"},
            usageHelp = true,
            description = "Show this help.")
    boolean help;
}
