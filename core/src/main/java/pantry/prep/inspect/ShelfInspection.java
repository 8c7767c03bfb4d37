package pantry.prep.inspect;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CancellationException;
import java.util.function.BiConsumer;
import pantry.base.IoProblems;
import pantry.base.Json;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.base.Sha256;
import pantry.library.Asset;
import pantry.library.Library;
import pantry.model.Facts;
import pantry.workpiece.PrepException;
import pantry.workpiece.Surroundings;
import pantry.workpiece.Workpiece;

/**
 * Inspects what stands in a library. What depends on an asset's version, card and rules alone is found once and kept;
 * what depends on the other assets is asked of the measured facts each time.
 */
public final class ShelfInspection {
    private final Library library;
    private final RuleSet rules;
    private final KeptInspections kept;
    private final Workpiece.Sources sources;
    private final Surroundings surroundings;

    public ShelfInspection(Library library, RuleSet rules, KeptInspections kept, Workpiece.Sources sources) {
        this.library = library;
        this.rules = rules;
        this.kept = kept;
        this.sources = sources;
        this.surroundings = Surroundings.of(library);
    }

    /** The library around what is inspected. */
    public Surroundings surroundings() {
        return surroundings;
    }

    public RuleSet rules() {
        return rules;
    }

    /**
     * What was found in the version of an asset that is shown.
     *
     * @throws PantryException where it cannot be read
     */
    public KeptInspections.Result of(Asset asset, Progress progress) {
        String version = asset.shown().orElseThrow(() -> new PrepException(asset.folder(), "has no version"));
        Workpiece.Shelved place = new Workpiece.Shelved(library, asset, version);
        String key = key(place);
        KeptInspections.Result result = kept.find(key).orElseGet(() -> {
            Inspection found = Inspection.of(Workpiece.of(place, sources), rules, Optional.empty(), progress);
            KeptInspections.Result fresh = new KeptInspections.Result(found.brief(), found.unanswered());
            kept.keep(key, fresh);
            return fresh;
        });
        List<Brief> all = new ArrayList<>(result.findings());
        all.addAll(ofShelves(place, asset.facts(version)));
        return new KeptInspections.Result(all, result.unanswered());
    }

    /** Inspects every asset, and tells of each; those that cannot be read are told as one finding. */
    public void all(BiConsumer<Asset, KeptInspections.Result> each, Progress progress) {
        List<Asset> assets = library.assets();
        for (int i = 0; i < assets.size(); i++) {
            Asset asset = assets.get(i);
            progress.step(asset.card().name(), (double) i / assets.size());
            try {
                each.accept(asset, of(asset, new Quiet(progress)));
            } catch (CancellationException e) {
                throw e;
            } catch (PantryException e) {
                each.accept(asset, new KeptInspections.Result(List.of(), List.of(e.line())));
            }
        }
    }

    /** Says nothing, and is cancelled with another. */
    private record Quiet(Progress whole) implements Progress {
        @Override
        public void report(String what, double fraction) {}

        @Override
        public boolean cancelled() {
            return whole.cancelled();
        }
    }

    private List<Brief> ofShelves(Workpiece.Shelved place, Facts facts) {
        List<Brief> found = new ArrayList<>();
        for (String id : Rules.OF_SHELVES) {
            Rule rule = Rules.find(id).orElseThrow();
            Severity severity = rules.severity(rule, Optional.of(place));
            List<String> said = severity == Severity.OFF ? List.of() : said(id, place.asset(), facts);
            for (int i = 0; i < said.size(); i++) {
                found.add(new Brief(
                        id + ":/" + (i == 0 ? "" : "#" + (i + 1)), id, severity.word(), "/", said.get(i), false));
            }
        }
        return found;
    }

    private List<String> said(String rule, Asset asset, Facts facts) {
        if (rule.equals("odd-size")) {
            return surroundings.oddSize(facts.bounds().size(), asset.shelf()).stream()
                    .toList();
        }
        return surroundings.like(Surroundings.Likeness.of(facts), asset.card().id()).stream()
                .map(other -> "it has the shape of " + other)
                .toList();
    }

    /** What a result depends on: the version's sealed contents, the card, where it stands, and the rules. */
    private String key(Workpiece.Shelved place) {
        Path manifest = place.asset().data(place.version()).resolveSibling("manifest-sha256.txt");
        try {
            String text = (Files.exists(manifest)
                            ? Files.readString(manifest)
                            : place.asset().folder().toString())
                    + Json.line(place.asset().card())
                    + place.asset().shelf()
                    + place.version()
                    + rules.fingerprint();
            return Sha256.of(text.getBytes(StandardCharsets.UTF_8));
        } catch (IOException e) {
            throw new PrepException(manifest, null, "cannot be read: " + IoProblems.describe(e), e);
        }
    }
}
