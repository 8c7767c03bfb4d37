package pantry.bench;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/** Runs Pantry and a named peer in turn, and prints medians and their ratio as a line of a table. */
final class Pairs {
    private static final int ROUNDS = 5;

    private Pairs() {}

    /** Work to be timed. */
    interface Run {
        void run() throws Exception;
    }

    static void header() {
        System.out.println("| work | Pantry | peer | ratio |\n|---|---|---|---|");
    }

    /** Rounds of one run each, after one that warms up. */
    static void pair(String work, Run ours, String peerName, Run peer) throws Exception {
        List<Double> mine = new ArrayList<>();
        List<Double> theirs = new ArrayList<>();
        List<Double> ratios = new ArrayList<>();
        for (int round = 0; round <= ROUNDS; round++) {
            double a = seconds(ours);
            double b = seconds(peer);
            if (round > 0) {
                mine.add(a);
                theirs.add(b);
                ratios.add(a / b);
            }
        }
        System.out.printf(
                Locale.ROOT,
                "| %s | %.3f s | %s: %.3f s | %.3f |%n",
                work,
                median(mine),
                peerName,
                median(theirs),
                median(ratios));
    }

    static double seconds(Run run) throws Exception {
        long start = System.nanoTime();
        run.run();
        return (System.nanoTime() - start) / 1e9;
    }

    /** The median of several runs, after one that warms up. */
    static double median(Run run) throws Exception {
        List<Double> figures = new ArrayList<>();
        for (int round = 0; round <= ROUNDS; round++) {
            double figure = seconds(run);
            if (round > 0) {
                figures.add(figure);
            }
        }
        return median(figures);
    }

    private static double median(List<Double> figures) {
        return figures.stream().sorted().skip(figures.size() / 2).findFirst().orElseThrow();
    }
}
