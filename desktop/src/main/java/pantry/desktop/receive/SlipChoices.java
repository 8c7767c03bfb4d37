package pantry.desktop.receive;

import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;
import pantry.base.PantryException;
import pantry.catalogue.Alike;
import pantry.catalogue.IndexedAsset;
import pantry.desktop.session.Session;
import pantry.intake.ArrivalSummary;
import pantry.intake.Intake;
import pantry.intake.Neighbours;
import pantry.intake.Presets;
import pantry.intake.ScaleCandidate;
import pantry.intake.ScaleEvidence;
import pantry.intake.Slip;
import pantry.intake.SlipPreset;
import pantry.intake.Survey;
import pantry.library.Library;
import pantry.library.Shelf;

/** What is suggested for arrivals, and what is chosen instead: their slips, and the choices that are kept. */
public final class SlipChoices {
    private static final String FIRST_SHELF = "New arrivals";

    private final Session session;
    private final List<Arrival> arrivals;
    private final RoundKeeper round;
    private final Supplier<Optional<Library>> target;

    /** @param target the library that things go into */
    SlipChoices(Session session, List<Arrival> arrivals, RoundKeeper round, Supplier<Optional<Library>> target) {
        this.session = session;
        this.arrivals = arrivals;
        this.round = round;
        this.target = target;
    }

    /** The library that things go into; empty where none can be written. */
    Optional<Library> target() {
        return target.get();
    }

    /** A slip for where new arrivals go; what stands there is of all kinds, and tells nothing of sizes. */
    Slip suggested(ArrivalSummary summary) {
        Slip slip = Intake.suggested(summary, FIRST_SHELF, Neighbours.NONE);
        return usual(FIRST_SHELF).map(preset -> preset.on(slip)).orElse(slip);
    }

    /**
     * What is like an arrival was found; where nobody has chosen otherwise, the same thing is as large.
     *
     * @param suggested what was suggested for it before
     */
    void found(Arrival arrival, List<Alike> alike, Slip suggested) {
        arrival.alikeProperty().set(alike);
        if (arrival.isOpen() && arrival.slipProperty().get().equals(Optional.of(suggested))) {
            candidates(arrival).stream().findFirst().ifPresent(likely -> arrival.slipProperty()
                    .set(Optional.of(suggested.withFactor(likely.factor()))));
        }
    }

    private static Optional<ScaleEvidence.Twin> twin(Arrival arrival) {
        return arrival.alikeProperty().get().stream()
                .filter(each -> each.isSameShape() && each.item().size()[1] > 0)
                .findFirst()
                .map(each ->
                        new ScaleEvidence.Twin(each.item().name(), each.item().size()[1]));
    }

    private Optional<SlipPreset> usual(String shelf) {
        try {
            return target.get().flatMap(library -> Presets.usualOf(library, Shelf.path(shelf)));
        } catch (PantryException e) {
            session.onInterface(() -> session.wrong(e));
            return Optional.empty();
        }
    }

    /** What stands on a shelf already, as the index knows it. */
    Neighbours neighbours(String shelf) {
        return shelf.equals(FIRST_SHELF)
                ? Neighbours.NONE
                : Neighbours.on(shelf, inTarget(), IndexedAsset::shelf, item -> item.size()[1]);
    }

    private Stream<IndexedAsset> inTarget() {
        return target.get().map(library -> library.root().toString()).stream()
                .flatMap(root -> session.shelving().finder().items().stream()
                        .filter(item -> item.library().equals(root)));
    }

    /** How an arrival's figures may be understood. */
    public List<ScaleCandidate> candidates(Arrival arrival) {
        Optional<Survey> survey = arrival.surveyProperty().get();
        Optional<Slip> slip = arrival.slipProperty().get();
        return survey.isEmpty() || slip.isEmpty()
                ? List.of()
                : Intake.candidates(
                        survey.get().outline(),
                        slip.get().up(),
                        neighbours(slip.get().shelf()),
                        twin(arrival));
    }

    /** A warning where the chosen size is out of the ordinary for its shelf. */
    public Optional<String> sizeWarning(Arrival arrival) {
        if (arrival.isShapeless()) {
            return Optional.empty();
        }
        return arrival.slipProperty().get().flatMap(slip -> candidates(arrival).stream()
                .filter(candidate -> Math.abs(candidate.factor() - slip.factor()) < slip.factor() * 1e-6)
                .filter(candidate -> candidate.unusual(neighbours(slip.shelf())))
                .findFirst()
                .map(ScaleCandidate::reason));
    }

    /** Changes the slip of an arrival. */
    public void change(Arrival arrival, UnaryOperator<Slip> change) {
        arrival.slipProperty()
                .get()
                .filter(slip -> arrival.isOpen())
                .ifPresent(slip -> session.attempt(() -> {
                    try {
                        Slip changed = change.apply(slip);
                        if (!changed.equals(slip)) {
                            arrival.slipProperty().set(Optional.of(changed));
                            round.chosen(arrival, changed);
                            arrival.putRight();
                        }
                    } catch (IllegalArgumentException e) {
                        throw new PantryException(arrival.file(), String.valueOf(e.getMessage()), e);
                    }
                }));
    }

    /** The user's own kept choices. */
    public List<Presets.Named> presets() {
        return session.workbench().presets().all();
    }

    /** Keeps an arrival's choices under a name. */
    public void keepPreset(Arrival arrival, String name) {
        arrival.slipProperty()
                .get()
                .ifPresent(slip -> session.attempt(() -> {
                    session.workbench().presets().keep(name, SlipPreset.of(slip));
                    session.told("kept the choices as " + name);
                }));
    }

    /** Makes an arrival's choices the usual ones of its shelf, for everybody. */
    public void makeUsual(Arrival arrival) {
        Optional<Slip> slip = arrival.slipProperty().get();
        if (slip.isPresent() && target.get().isPresent()) {
            session.attempt(() -> {
                String shelf = Shelf.path(slip.get().shelf());
                Presets.makeUsual(target.get().get(), slip.get().withShelf(shelf));
                session.told("these choices are the usual ones of " + shelf + " now");
            });
        }
    }

    /** Makes the chosen arrivals the next version of an asset; with none, assets of their own again. */
    public void takeAsVersionOf(Arrival arrival, Optional<String> asset) {
        change(arrival, slip -> slip.withVersionOf(asset));
        arrival.choose(true);
    }
}
