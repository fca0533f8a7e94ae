// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <algorithm>
#include <compare>
#include <cstddef>
#include <initializer_list>
#include <iterator>
#include <memory>
#include <utility>
#include <vector>

namespace core {

/// A list of values whose copies share their items until one of them changes one: the snapshots of a project cost what
/// was edited, not what they hold. It reads like std::vector. Access to an item of a list that is not const takes that
/// item for its own first, so references from before may be to the shared one; look through std::as_const where nothing
/// is changed. Threads: lists that share items may be read, copied and changed in different threads; one list only in
/// one.
template <class T> class SharedList {
    using Items = std::vector<std::shared_ptr<const T>>;

    /// Walks over items; hands out T& where the list may be changed.
    template <class Value, class At> class Walk {
    public:
        using iterator_category = std::random_access_iterator_tag;
        using value_type = T;
        using difference_type = std::ptrdiff_t;
        using pointer = Value*;
        using reference = Value&;
        Walk() = default;
        explicit Walk(At at) : m_at(at) {}
        template <class OtherValue, class Other>
        requires std::is_convertible_v<Other, At> Walk(const Walk<OtherValue, Other>& other) : m_at(other.at()) {}
        reference operator*() const { return item(*m_at); }
        pointer operator->() const { return &item(*m_at); }
        reference operator[](difference_type n) const { return item(m_at[n]); }
        Walk& operator++() {
            ++m_at;
            return *this;
        }
        Walk operator++(int) { return Walk(m_at++); }
        Walk& operator--() {
            --m_at;
            return *this;
        }
        Walk operator--(int) { return Walk(m_at--); }
        Walk& operator+=(difference_type n) {
            m_at += n;
            return *this;
        }
        Walk& operator-=(difference_type n) {
            m_at -= n;
            return *this;
        }
        friend Walk operator+(Walk w, difference_type n) { return w += n; }
        friend Walk operator+(difference_type n, Walk w) { return w += n; }
        friend Walk operator-(Walk w, difference_type n) { return w -= n; }
        friend difference_type operator-(const Walk& a, const Walk& b) { return a.m_at - b.m_at; }
        friend bool operator==(const Walk& a, const Walk& b) { return a.m_at == b.m_at; }
        friend auto operator<=>(const Walk& a, const Walk& b) { return a.m_at <=> b.m_at; }
        [[nodiscard]] At at() const { return m_at; }

    private:
        static const T& item(const std::shared_ptr<const T>& held) { return *held; }
        static T& item(std::shared_ptr<const T>& held) { return own(held); }
        At m_at{};
    };

public:
    using value_type = T;
    using iterator = Walk<T, typename Items::iterator>;
    using const_iterator = Walk<const T, typename Items::const_iterator>;

    SharedList() = default;
    SharedList(std::initializer_list<T> items) : SharedList(items.begin(), items.end()) {}
    SharedList(const std::vector<T>& items) : SharedList(items.begin(), items.end()) {}
    template <class It> SharedList(It from, It to) {
        for (; from != to; ++from)
            push_back(*from);
    }

    [[nodiscard]] std::size_t size() const { return m_items.size(); }
    [[nodiscard]] bool empty() const { return m_items.empty(); }
    [[nodiscard]] const T& operator[](std::size_t i) const { return *m_items[i]; }
    [[nodiscard]] T& operator[](std::size_t i) { return own(m_items[i]); }
    [[nodiscard]] const T& front() const { return *m_items.front(); }
    [[nodiscard]] T& front() { return own(m_items.front()); }
    [[nodiscard]] const T& back() const { return *m_items.back(); }
    [[nodiscard]] T& back() { return own(m_items.back()); }
    [[nodiscard]] const_iterator begin() const { return const_iterator(m_items.begin()); }
    [[nodiscard]] const_iterator end() const { return const_iterator(m_items.end()); }
    [[nodiscard]] iterator begin() { return iterator(m_items.begin()); }
    [[nodiscard]] iterator end() { return iterator(m_items.end()); }

    void push_back(T item) { m_items.push_back(std::make_shared<T>(std::move(item))); }
    void pop_back() { m_items.pop_back(); }
    void clear() { m_items.clear(); }
    void resize(std::size_t n) {
        m_items.resize(std::min(n, m_items.size()));
        while (m_items.size() < n)
            push_back({});
    }
    void reserve(std::size_t n) { m_items.reserve(n); }
    iterator erase(const_iterator at) { return iterator(m_items.erase(at.at())); }
    iterator erase(const_iterator from, const_iterator to) { return iterator(m_items.erase(from.at(), to.at())); }
    iterator insert(const_iterator at, T item) {
        return iterator(m_items.insert(at.at(), std::make_shared<T>(std::move(item))));
    }
    template <class It> void insert(const_iterator at, It from, It to) {
        Items more;
        for (; from != to; ++from)
            more.push_back(std::make_shared<T>(*from));
        m_items.insert(at.at(), more.begin(), more.end());
    }

    /// The item with an id, to be changed; null: there is none. Others stay shared.
    template <class Id> [[nodiscard]] T* edit(const Id& id) {
        const auto at = std::find_if(m_items.begin(), m_items.end(), [&](const auto& held) { return held->id == id; });
        return at == m_items.end() ? nullptr : &own(*at);
    }
    /// The item itself, to be held on to: equal pointers are equal items.
    [[nodiscard]] const std::shared_ptr<const T>& held(std::size_t i) const { return m_items[i]; }
    /// Whether item @p i is the very one of @p other at that place: nothing of it needs to be looked at again.
    [[nodiscard]] bool isSame(std::size_t i, const SharedList& other) const {
        return i < other.m_items.size() && m_items[i] == other.m_items[i];
    }
    /// Takes the items of @p other where they are equal: what an edit only looked at is shared again.
    void shareWith(const SharedList& other) {
        for (std::size_t i = 0; i < m_items.size(); ++i) {
            const auto equal = [&](const auto& theirs) { return theirs != m_items[i] && *theirs == *m_items[i]; };
            if (i < other.m_items.size() && equal(other.m_items[i]))
                m_items[i] = other.m_items[i];
        }
    }

    friend bool operator==(const SharedList& a, const SharedList& b) {
        return std::equal(a.m_items.begin(), a.m_items.end(), b.m_items.begin(), b.m_items.end(),
                          [](const auto& x, const auto& y) { return x == y || *x == *y; });
    }
    /// Removes what @p wrong holds for; answers how many.
    template <class Wrong> friend std::size_t erase_if(SharedList& list, Wrong wrong) {
        return std::erase_if(list.m_items, [&](const std::shared_ptr<const T>& held) { return wrong(*held); });
    }

private:
    static T& own(std::shared_ptr<const T>& held) {
        if (held.use_count() > 1)
            held = std::make_shared<T>(*held);
        return const_cast<T&>(*held); // made as a T that is not const, above or in push_back, and nobody else has it
    }
    Items m_items;
};

} // namespace core
