package pantry.desktop.shelves;

import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.ReadOnlyIntegerProperty;
import javafx.beans.property.ReadOnlyIntegerWrapper;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.beans.property.SimpleObjectProperty;
import pantry.base.PantryException;
import pantry.base.math.Box3;
import pantry.catalogue.IndexedAsset;
import pantry.compare.Comparison;
import pantry.compare.Overlay;
import pantry.desktop.session.LatestWork;
import pantry.desktop.session.Session;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.library.Card;
import pantry.library.JournalEntry;
import pantry.library.Library;
import pantry.library.Reservation;
import pantry.library.Uses;
import pantry.library.VersionInfo;
import pantry.model.Facts;
import pantry.model.Model;
import pantry.model.Posing;
import pantry.model.Weight;
import pantry.usecase.CompareVersions;
import pantry.usecase.MixParts;
import pantry.workbench.AssetPreview;

/** One asset's card: what is known of it, how it looks with the variants that are chosen, and its versions. */
public final class CardModel {
    private static final int MOST_CARDS = 200;

    private final Session session;
    private final ReadOnlyObjectWrapper<Optional<Details>> details = new ReadOnlyObjectWrapper<>(Optional.empty());
    private final ReadOnlyObjectWrapper<Optional<Model>> previewed = new ReadOnlyObjectWrapper<>(Optional.empty());
    private final ReadOnlyObjectWrapper<Weight> weight = new ReadOnlyObjectWrapper<>(Weight.NOTHING);
    private final ObjectProperty<Map<String, String>> variants = new SimpleObjectProperty<>(Map.of());
    private final BooleanProperty proxy = new SimpleBooleanProperty();
    private final ReadOnlyObjectWrapper<Optional<Compared>> compared = new ReadOnlyObjectWrapper<>(Optional.empty());
    private final ReadOnlyIntegerWrapper favourites = new ReadOnlyIntegerWrapper();
    private Optional<IndexedAsset> shown = Optional.empty();
    private final LatestWork cards;
    private final LatestWork previews;
    private final LatestWork together;
    private final LatestWork reservations;
    private final LatestWork weights;
    private final LatestWork reaching;
    private final ReadOnlyObjectWrapper<Optional<Box3>> reach = new ReadOnlyObjectWrapper<>(Optional.empty());

    /** The assets that are weighed together; the very list. */
    private volatile List<IndexedAsset> onScale = List.of();

    /**
     * What is known of an asset.
     *
     * @param version the one that is looked at
     * @param uses assets that it is made of
     * @param usedBy assets that are made of it
     * @param usedIn the files of the open projects that use it, and how often, as they were read last; empty where no
     *     project is open
     * @param behind materials that were made with an earlier version of it, where it is a part of materials
     * @param unseen what the version carries and is not drawn
     * @param choices the variant that each set has where nobody chooses
     */
    public record Details(
            IndexedAsset item,
            Library library,
            Asset asset,
            String version,
            Facts facts,
            List<VersionInfo> versions,
            Optional<Reservation> reservation,
            List<IndexedAsset> uses,
            List<IndexedAsset> usedBy,
            List<Asset> behind,
            AssetPreview.Unseen unseen,
            Optional<Map<Path, Long>> usedIn,
            Map<String, String> choices,
            boolean hasProxy) {
        /** What mixes material parts in its library. */
        MixParts mixParts(Session session) {
            return CardModel.mixParts(session, library);
        }

        Details reservedBy(Optional<Reservation> other) {
            return new Details(
                    item, library, asset, version, facts, versions, other, uses, usedBy, behind, unseen, usedIn,
                    choices, hasProxy);
        }
    }

    private static MixParts mixParts(Session session, Library library) {
        return new MixParts(session.workbench().intake(), session.workbench().readers(), library);
    }

    /** Two versions side by side. */
    public record Compared(
            Asset asset, String before, String after, Model old, Model now, Model overlay, Comparison differences) {}

    CardModel(Session session) {
        this.session = session;
        this.cards = new LatestWork(session.background());
        this.previews = new LatestWork(session.background());
        this.together = new LatestWork(session.background());
        this.reservations = new LatestWork(session.background());
        this.weights = new LatestWork(session.background());
        this.reaching = new LatestWork(session.background());
        previewed.addListener(change -> lookHowFarItReaches());
        variants.addListener(change -> readPreview());
        proxy.addListener(change -> readPreview());
    }

    /** What is known of the asset; empty until it is read. */
    public ReadOnlyObjectProperty<Optional<Details>> detailsProperty() {
        return details.getReadOnlyProperty();
    }

    /** How the version looks; empty until it is read. */
    public ReadOnlyObjectProperty<Optional<Model>> previewProperty() {
        return previewed.getReadOnlyProperty();
    }

    /** The box around it over all its motions, metres; empty where it has none, or that is not worked out yet. */
    public ReadOnlyObjectProperty<Optional<Box3>> reachProperty() {
        return reach.getReadOnlyProperty();
    }

    private void lookHowFarItReaches() {
        reach.set(Optional.empty());
        previewed
                .get()
                .flatMap(Posing::of)
                .filter(posing -> !posing.skeleton().motions().isEmpty())
                .ifPresentOrElse(
                        posing -> reaching.quietly(
                                "looking how far it reaches",
                                progress -> posing.reach(),
                                box -> reach.set(Optional.of(box))),
                        reaching::drop);
    }

    /** What it weighs, as it is previewed. */
    public ReadOnlyObjectProperty<Weight> weightProperty() {
        return weight.getReadOnlyProperty();
    }

    /** The variants chosen for looking, by the names of their sets; the asset's own choice where there is none. */
    public ObjectProperty<Map<String, String>> variantsProperty() {
        return variants;
    }

    /** Whether the light stand-in is looked at. */
    public BooleanProperty proxyProperty() {
        return proxy;
    }

    /** The versions that are compared; empty where none are. */
    public ReadOnlyObjectProperty<Optional<Compared>> comparedProperty() {
        return compared.getReadOnlyProperty();
    }

    /** Goes up when favourites change. */
    public ReadOnlyIntegerProperty favouritesProperty() {
        return favourites.getReadOnlyProperty();
    }

    void favouritesChanged() {
        favourites.set(favourites.get() + 1);
    }

    /** Reads the cards of several assets, in the background; of very many, the first tell enough to begin with. */
    void several(List<IndexedAsset> items, Consumer<List<Card>> then) {
        together.quietly(
                "opening " + items.size() + " cards",
                progress -> items.stream()
                        .limit(MOST_CARDS)
                        .flatMap(item -> session.shelving().unlessRemoved(item, Asset::card).stream())
                        .toList(),
                then);
    }

    /** Weighs several assets together, in the background, until others are asked for. */
    void weigh(List<IndexedAsset> items) {
        onScale = items;
        weight.set(Weight.NOTHING);
        weights.quietly(
                "weighing " + items.size() + " assets",
                progress -> {
                    Weight sum = Weight.NOTHING;
                    for (IndexedAsset item : items) {
                        if (onScale != items) {
                            break;
                        }
                        progress.check();
                        sum = sum.plus(session.shelving()
                                .unlessRemoved(item, asset -> weight(asset, item.version()))
                                .orElse(Weight.NOTHING));
                    }
                    return sum;
                },
                sum -> {
                    if (onScale == items) {
                        weight.set(sum);
                    }
                },
                // What cannot be read is told of where it is looked at.
                problem -> {});
    }

    private Weight weight(Asset asset, String version) {
        AssetPreview preview = session.workbench().preview(asset, version);
        return preview.weight(preview.model(Map.of(), false));
    }

    void show(Optional<IndexedAsset> item) {
        onScale = List.of();
        if (item.equals(shown) && details.get().isPresent()) {
            return;
        }
        boolean same = item.isPresent()
                && shown.isPresent()
                && item.get().id().equals(shown.get().id());
        shown = item;
        if (item.isEmpty()) {
            cards.drop();
            previews.drop();
        }
        if (!same) {
            details.set(Optional.empty());
            previewed.set(Optional.empty());
            weight.set(Weight.NOTHING);
            compared.set(Optional.empty());
        }
        item.ifPresent(chosen -> open(chosen, Optional.empty()));
    }

    /** Looks at another version of the asset. */
    public void showVersion(String version) {
        shown.ifPresent(item -> open(item, Optional.of(version)));
    }

    /** Looks who holds the asset now, in the background. */
    public void lookAtReservation() {
        details.get()
                .ifPresent(now -> reservations.quietly(
                        "looking who holds " + now.item().name(),
                        progress -> now.library().reservations().of(now.asset()),
                        held -> {
                            if (details.get().filter(still -> still == now).isPresent()
                                    && !held.equals(now.reservation())) {
                                details.set(Optional.of(now.reservedBy(held)));
                            }
                        },
                        // A library that is away is told of elsewhere.
                        problem -> {}));
    }

    /** Reads the asset once more; where it is gone, its card is too. */
    public void reread() {
        shown.ifPresent(item -> open(item, details.get().map(Details::version), gone -> details.set(Optional.empty())));
    }

    private void open(IndexedAsset item, Optional<String> version) {
        open(item, version, problem -> {
            details.set(Optional.empty());
            session.wrong(problem);
        });
    }

    private void open(IndexedAsset item, Optional<String> version, Consumer<PantryException> failed) {
        previews.drop();
        List<Path> projects = List.copyOf(session.projects());
        cards.quietly(
                "opening the card of " + item.name(),
                progress -> session.shelving().unlessRemoved(item, asset -> read(item, asset, version, projects)),
                read -> {
                    details.set(read);
                    if (read.isEmpty()) {
                        return;
                    }
                    if (!variants.get().isEmpty() || proxy.get()) {
                        // Of another asset: the change reads the preview as well.
                        proxy.set(false);
                        variants.set(Map.of());
                    }
                    readPreview();
                },
                failed);
    }

    private Details read(IndexedAsset item, Asset asset, Optional<String> wanted, List<Path> projects) {
        Library library = session.shelving().at(item.library());
        String version = wanted.filter(asset.versions()::contains).orElse(item.version());
        Map<String, IndexedAsset> all = new LinkedHashMap<>();
        session.shelving().finder().items().forEach(each -> all.put(each.id(), each));
        List<IndexedAsset> uses = Uses.of(asset.folder()).stream()
                .map(Uses.Use::id)
                .distinct()
                .filter(all::containsKey)
                .map(all::get)
                .toList();
        List<IndexedAsset> usedBy = all.values().stream()
                .filter(other -> other.uses().contains(item.id()))
                .toList();
        AssetPreview preview = session.workbench().preview(asset, version);
        return new Details(
                item,
                library,
                asset,
                version,
                asset.facts(version),
                library.history(asset),
                library.reservations().of(asset),
                uses,
                usedBy,
                asset.card().kind() == AssetKind.MATERIAL_PART
                        ? mixParts(session, library).outdatedBy(asset)
                        : List.of(),
                preview.unseen(),
                projects.isEmpty() ? Optional.empty() : Optional.of(usedIn(asset, projects)),
                preview.choices(),
                preview.hasProxy());
    }

    private Map<Path, Long> usedIn(Asset asset, List<Path> projects) {
        Map<Path, Long> uses = new LinkedHashMap<>();
        session.workbench()
                .useIndex()
                .usesOf(projects, List.of(asset.folder()))
                .forEach(found -> uses.merge(found.file(), found.count(), Long::sum));
        return uses;
    }

    /** Shows something else instead of the version that is looked at, such as what it would become. */
    void tryOut(Model model) {
        previews.drop();
        previewed.set(Optional.of(model));
    }

    /** Shows the version again. */
    void showAsItIs() {
        readPreview();
    }

    private void readPreview() {
        if (details.get().isEmpty()) {
            return;
        }
        Details now = details.get().get();
        Map<String, String> chosen = variants.get();
        boolean light = proxy.get();
        previews.quietly(
                "opening " + now.item().name(),
                progress -> session.shelving().unlessRemoved(now.item(), asset -> {
                    AssetPreview preview = session.workbench().preview(asset, now.version());
                    Model model = preview.model(chosen, light);
                    return Map.entry(model, preview.weight(model));
                }),
                read -> read.ifPresent(shown -> {
                    previewed.set(Optional.of(shown.getKey()));
                    if (onScale.isEmpty()) {
                        weight.set(shown.getValue());
                    }
                }));
    }

    /** Chooses a variant for looking. */
    public void choose(String set, String variant) {
        Map<String, String> more = new LinkedHashMap<>(variants.get());
        more.put(set, variant);
        variants.set(Map.copyOf(more));
    }

    /** Compares two versions of the asset. */
    public void compare(String before, String after) {
        details.get()
                .ifPresent(now -> session.run(
                        "comparing " + before + " with " + after,
                        progress -> {
                            Comparison differences = new CompareVersions(
                                            session.workbench().readers())
                                    .run(now.asset(), before, after, progress);
                            Model old = session.workbench()
                                    .preview(now.asset(), before)
                                    .model(Map.of(), false);
                            Model fresh = session.workbench()
                                    .preview(now.asset(), after)
                                    .model(Map.of(), false);
                            return new Compared(
                                    now.asset(),
                                    before,
                                    after,
                                    old,
                                    fresh,
                                    Overlay.of(old, fresh, differences),
                                    differences);
                        },
                        result -> compared.set(Optional.of(result))));
    }

    /** Ends the comparison. */
    public void endComparison() {
        compared.set(Optional.empty());
    }

    /** What happened to the asset, the newest first. */
    public void tellStory(Consumer<List<JournalEntry>> then) {
        details.get()
                .ifPresent(now -> session.quietly(
                        "reading the journal",
                        progress -> now.library().journal().entries(now.asset()).reversed(),
                        then));
    }
}
